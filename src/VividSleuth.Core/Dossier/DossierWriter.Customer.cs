using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Dossier;

/// <content>The customer’s letter: two pages in plain words.</content>
public sealed partial class DossierWriter
{
    /// <summary>Findings that are told, the worst; the others are counted.</summary>
    private const int FoundTold = 6;

    /// <summary>Lines of what is done that are told; the others are counted.</summary>
    private const int DoneTold = 12;

    /// <summary>Photographs of a letter.</summary>
    private const int LetterPictures = 3;

    private void ForTheCustomer()
    {
        var engine = _of.Engine;
        Text(
            "dossier.letter.to",
            ("owner", Or(engine.Owner)),
            ("engine", engine.Name),
            ("serial", Or(engine.Serial)),
            ("hours", (double?)engine.Hours)
        );
        if (engine.Complaint.Length > 0)
        {
            Chapter("dossier.letter.you-told-us");
            Text("dossier.quoted", ("text", engine.Complaint));
        }

        Chapter("dossier.letter.what-failed");
        if (_own is { } own)
        {
            _blocks.Add(
                new DossierText(
                    Fact.Of(
                        "dossier.letter.finding",
                        ("cause", CauseOf(own) ?? Fact.Of("dossier.cause-unknown")),
                        ("part", own.Place.Length > 0 ? InWords(own.Place) : null),
                        ("confidence", own.Confidence)
                    ),
                    Strong: true
                )
            );
            if (own.Reasons.Length > 0)
            {
                Text("dossier.letter.why", ("reasons", own.Reasons));
            }

            Text("dossier.letter.fault", ("fault", own.Fault));
        }
        else
        {
            Text("dossier.letter.undecided");
        }

        Found();
        Photographs(LetterPictures);
        Done();
        RanAgain();
        Costs();
        When();
    }

    private void Found()
    {
        var found = _seen.Where(f => f.IsEvidence).DistinctBy(f => (f.Place, f.Sign)).ToArray();
        if (found.Length == 0)
        {
            return;
        }

        Chapter("dossier.letter.what-we-found");
        _blocks.Add(
            new DossierList([
                .. found
                    .Take(FoundTold)
                    .Select(f =>
                        Fact.Of(
                            "dossier.letter.found",
                            ("part", InWords(f.Place)),
                            ("sign", SignName(f.Sign)),
                            ("level", Fact.Of($"dossier.level.{f.Level}"))
                        )
                    ),
            ])
        );
        if (found.Length > FoundTold)
        {
            Text("dossier.letter.found-more", ("more", found.Length - FoundTold));
        }
    }

    private void Done()
    {
        Chapter("dossier.letter.what-we-do");
        var decided = Decided().ToArray();
        var worked = decided.Where(d => !GoesBack(d.Action)).ToArray();
        if (decided.Length == 0)
        {
            Text("dossier.letter.nothing-decided");
            return;
        }

        _blocks.Add(
            new DossierList([
                .. worked
                    .Take(DoneTold)
                    .Select(d => Fact.Of("dossier.letter.done", ("part", d.Parts[0].Kind.Name), ("count", d.Parts.Count), ("course", d.Course))),
            ])
        );
        if (worked.Length > DoneTold)
        {
            Text("dossier.letter.done-more", ("more", worked.Length - DoneTold));
        }

        var again = decided.Where(d => GoesBack(d.Action)).Sum(d => d.Parts.Count);
        if (again > 0)
        {
            Text("dossier.letter.used-again", ("count", again));
        }
    }

    /// <summary>The tests of arrival once more: what really changed, in plain words; what is not told apart is told so.</summary>
    private void RanAgain()
    {
        var changed = _of
            .Gauge.Figures.Where(f => f.Phase == Phase.AfterRun)
            .Select(now =>
                (
                    Now: now,
                    Was: _of.Gauge.Figures.FirstOrDefault(f =>
                        f.Phase == Phase.AsFound && f.Place == now.Place && f.Characteristic == now.Characteristic
                    )
                )
            )
            .Where(x => x.Was is not null)
            .Select(x => (x.Now, Was: x.Was!, Change: FigureChange.Of(x.Was!, x.Now)))
            .Where(x => x.Change is not null)
            .ToArray();
        if (changed.Length == 0)
        {
            return;
        }

        Chapter("dossier.letter.ran-again");
        _blocks.Add(
            new DossierList([
                .. changed
                    .Take(DoneTold)
                    .Select(x =>
                        Fact.Of(
                            "dossier.letter.before-after",
                            ("figure", x.Now.Name),
                            ("part", InWords(x.Now.Place)),
                            ("was", new Amount(x.Was.Value, x.Was.Quantity, Digits(x.Was.Expanded))),
                            ("now", new Amount(x.Now.Value, x.Now.Quantity, Digits(x.Now.Expanded))),
                            ("told", x.Change!.Told(Digits(x.Change.Doubt)))
                        )
                    ),
            ])
        );
    }

    private void Costs()
    {
        var chosen = _of.Options.Select(t => t.Chosen).OfType<OptionChoice>().ToArray();
        if (chosen.Length == 0 && _of.Order.Cost <= 0)
        {
            return;
        }

        Chapter("dossier.letter.what-it-costs");
        foreach (var choice in chosen)
        {
            Text(
                "dossier.letter.chosen",
                ("option", choice.Title),
                ("why", Or(choice.Why)),
                ("cost", Money(choice.Cost, choice.Currency)),
                ("chance", new Percent(choice.Chance)),
                ("expected", Money(choice.Expected, choice.Currency))
            );
        }

        foreach (var answer in _of.Options.SelectMany(t => t.Answers))
        {
            Text(
                "dossier.letter.answer",
                ("answer", Answered(answer)),
                ("option", answer.Title),
                ("cost", Money(answer.Cost, answer.Currency)),
                ("name", By(answer.Name, answer.Imported)),
                ("day", Day(answer.At))
            );
        }

        if (chosen.Length == 0)
        {
            Text(
                "dossier.letter.order",
                ("cost", Money(_of.Order.Cost, _of.Order.Currency)),
                ("unpriced", _of.Order.Unpriced > 0 ? Fact.Of("dossier.letter.unpriced", ("count", _of.Order.Unpriced)) : null)
            );
        }
    }

    private void When()
    {
        if (_of.Build is { RanOn: null } build && (build.Promise?.Day ?? build.Likely) is not null)
        {
            Chapter("dossier.letter.when");
            Text("dossier.letter.runs-again", ("promised", build.Promise?.Day), ("likely", build.Likely), ("safe", build.Safe));
        }
    }

    private static Fact Money(decimal amount, string currency) =>
        Fact.Of("dossier.money", ("amount", new Number((double)amount, Currencies.DigitsOf(currency), Fixed: true)), ("currency", currency));

    /// <summary>Null of what nobody wrote, so that the sentence is told without it.</summary>
    private static string? Or(string text) => text.Length > 0 ? text : null;
}

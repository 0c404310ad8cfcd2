using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Shop;

/// <summary>Who did a step or some of its stations, when, and for what reason where one was asked for.</summary>
public sealed record StepDone(
    StepState State,
    IReadOnlyList<int> Stations,
    string By,
    DateTimeOffset At,
    string Reason,
    IReadOnlyList<StepOverride> Passed
);

/// <summary>Fasteners of a set as they were counted.</summary>
public sealed record SetCounted(string Name, int Out, int Expected, int Broken);

/// <summary>What is there of a step to be checked.</summary>
/// <param name="State">Null while something of it is left to do.</param>
/// <param name="Ticked">Ticks that are set, of all.</param>
public sealed record StepEvidence(
    string Id,
    string Name,
    bool HoldPoint,
    StepState? State,
    IReadOnlyList<StepDone> Records,
    int Ticked,
    int Ticks,
    IReadOnlyList<SetCounted> Sets,
    IReadOnlyList<Guid> Photos
);

/// <summary>Something found while the section was worked.</summary>
/// <param name="Level">0 where it was looked for and is not there.</param>
public sealed record EvidenceFound(string Place, string Sign, string Name, Seen Seen, int Level, string Note, string By, DateTimeOffset At);

/// <summary>Something measured while the section was worked.</summary>
/// <param name="Conformity">Of the figure that it went into; null where there is no limit.</param>
public sealed record EvidenceMeasured(string Place, string Name, string Typed, string Unit, Conformity? Conformity, string By, DateTimeOffset At);

/// <summary>All that a section has to show to whoever signs it.</summary>
/// <param name="Acts">What was done at its hold point, the first first.</param>
public sealed record SectionEvidence(
    SectionStanding Standing,
    IReadOnlyList<StepEvidence> Steps,
    IReadOnlyList<EvidenceFound> Found,
    IReadOnlyList<EvidenceMeasured> Measured,
    IReadOnlyList<SignOff> Acts
)
{
    /// <summary>Gathers it. What was found and measured belongs to the section in whose time it was: since the signature before, until its own.</summary>
    /// <returns>Null where the strip has no such section.</returns>
    public static SectionEvidence? Of(CaseReader reader, string section)
    {
        var book = reader.Book;
        var sections = HoldSections.Of(book);
        if (sections.FirstOrDefault(s => s.Id == section) is not { } its)
        {
            return null;
        }

        var from =
            sections.TakeWhile(s => s.Id != section).Select(s => s.Hold is null ? null : book.SignatureOf(s.Id)?.At).Max() ?? DateTimeOffset.MinValue;
        var to = its.Hold is null ? DateTimeOffset.MaxValue : book.SignatureOf(its.Id)?.At ?? DateTimeOffset.MaxValue;
        bool Within(CaseRecord r) => r.Stands() && r.At > from && r.At <= to;
        var conformity = reader
            .Gauge.Figures.Where(f => f is { Derived: false, Conformity: not null })
            .GroupBy(f => (f.Place, f.Characteristic))
            .ToDictionary(g => g.Key, g => g.First().Conformity);
        return new SectionEvidence(
            HoldSections.StandingOf(its, book),
            [
                .. its.Steps.Select(s =>
                {
                    var standing = book.Standing(s.Id);
                    var plan = book.Planned(s, Fact.Text(""));
                    return new StepEvidence(
                        s.Id,
                        s.Name,
                        s.HoldPoint,
                        standing.State,
                        [.. standing.Records.Select(r => new StepDone(r.State, r.Stations, r.By, r.At, r.Reason, r.Overrides))],
                        plan.Ticked.Count,
                        s.Ticks.Count,
                        [.. plan.Sets.Select(l => new SetCounted(l.Set.Name, l.Out, l.Expected, l.Broken))],
                        [.. reader.Case.Photos.Where(p => p.Stands() && p.Step == s.Id).OrderBy(p => p.At).Select(p => p.Id)]
                    );
                }),
            ],
            [
                .. reader
                    .Case.Findings.Where(Within)
                    .OrderBy(f => f.At)
                    .Select(f => new EvidenceFound(
                        f.Place,
                        f.Sign,
                        reader.Knowledge.Sign(f.Sign)?.Name ?? f.Sign,
                        f.Seen,
                        f.Level,
                        f.Note,
                        f.By,
                        f.At
                    )),
            ],
            [
                .. reader
                    .Case.Readings.Where(Within)
                    .OrderBy(r => r.At)
                    .Select(r => new EvidenceMeasured(
                        r.Place,
                        reader.Knowledge.Characteristic(r.Characteristic)?.Name ?? r.Characteristic,
                        r.Typed,
                        r.Unit,
                        conformity.GetValueOrDefault((r.Place, r.Characteristic)),
                        r.By,
                        r.At
                    )),
            ],
            its.Hold is null ? [] : [.. book.ActsAt(its.Id)]
        );
    }
}

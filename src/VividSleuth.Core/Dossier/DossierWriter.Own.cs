using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Dossier;

/// <content>For the shop’s next engine of the kind, and for a class.</content>
public sealed partial class DossierWriter
{
    /// <summary>Photographs of a record for the bench.</summary>
    private const int BenchPictures = 6;

    private void ForTheNextOne()
    {
        Facts();
        WhyItFailed();
        Chapter("dossier.chapter.lessons");
        if (_of.Lessons.Count > 0)
        {
            _blocks.Add(new DossierList([.. _of.Lessons.Select(Fact.Text)]));
        }
        else
        {
            Text("dossier.nothing");
        }

        Chapter("dossier.chapter.fasteners");
        Table(
            [Column("step", 0.35), Column("set", 0.3), Column("count", 0.1, figures: true), Column("lengths", 0.25)],
            _of.Strip.Steps.SelectMany(s => s.Sets.Select(x => (Step: s, Of: x)))
                .Select(x =>
                    Row(
                        Fact.Text(x.Step.Name),
                        Fact.Of("dossier.set", ("set", x.Of.Set.Name), ("thread", Or(x.Of.Set.Thread))),
                        Fact.Of("dossier.count", ("count", x.Of.Expected)),
                        x.Of.Set.Lengths.Count > 0
                            ? Fact.Of("dossier.lengths", ("lengths", x.Of.Set.Lengths.Select(l => Amount.Length(l, 1)).ToArray()))
                            : null
                    )
                )
        );
        Chapter("dossier.chapter.time");
        Table(
            [Column("step", 0.5), Column("planned", 0.25, figures: true), Column("took", 0.25, figures: true)],
            _of.Strip.Steps.Where(s => s.State == StepState.Done).Select(s => Row(Fact.Text(s.Name), Minutes(s.Minutes), Minutes(s.Spent)))
        );
        Figures();
        Drawn();
        BeforeAndAfter();
        EarlierOnes();
        Verdicts();
        Photographs(BenchPictures);
        Readings();
        InstrumentList();
    }

    /// <summary>Null of a step that has no time of its own, or of which no clock ran.</summary>
    private static Fact? Minutes(double minutes) => minutes > 0 ? Fact.Of("dossier.minutes", ("minutes", (int)Math.Round(minutes))) : null;

    private void ForTheClass()
    {
        Facts();
        Chapter("dossier.chapter.class");
        var steps = _of.Strip.Steps.Where(s => !s.Beyond && s.ClosedBy.Length == 0).ToArray();
        Text(
            "dossier.class-done",
            ("done", steps.Count(s => s.State == StepState.Done)),
            ("of", steps.Length),
            ("signed", steps.Count(s => s is { HoldPoint: true, SignedBy: not null, Stale: false })),
            ("points", steps.Count(s => s.HoldPoint)),
            ("seen", _seen.Length),
            ("absent", _absent.Length),
            ("readings", GaugeLog.Active(_of.Readings).Count())
        );
        WhyItFailed();
        if (_own is { Computed: { } computed } own)
        {
            Text(
                "dossier.class-compared",
                ("then", own.ComputedCause.Length > 0 ? _of.Knowledge.Cause(own.ComputedCause)?.Name ?? own.ComputedCause : null),
                ("probability", new Percent(computed)),
                ("this", own.ComputedForThis is { } p ? new Percent(p) : null)
            );
        }

        Opened();
        StripLog();
        NotDone();
        Photographs(BenchPictures);
    }
}

using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>Every cause that ships, tried on an engine that may have it.</summary>
public sealed class CauseTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    private static readonly EngineLayout[] Layouts =
    [
        Start.InlineSix with
        {
            ValveGear = ValveGear.TwinOverhead,
            InletValves = 2,
            ExhaustValves = 2,
            CamPhasers = true,
        },
        .. CauseReview.Layouts,
        Start.InlineSix with
        {
            Fuel = FuelSystem.Diesel,
            Charging = Charging.Turbocharger,
            Bores = BoreBuild.WetLiner,
        },
        Start.TwoStrokeTwin,
    ];

    public static TheoryData<string> Ids() => [.. KnowledgeBase.BuiltIn.Causes.Select(s => s.Id)];

    private static (EngineLayout Layout, Hypothesis Hypothesis)? Placed(string cause)
    {
        foreach (var layout in Layouts)
        {
            if (Hypotheses.Of(Start.Table(layout), Knowledge).Where(h => h.Cause.Id == cause).ToArray() is { Length: > 0 } placed)
            {
                return (layout, placed[placed.Length / 2]);
            }
        }

        return null;
    }

    /// <summary>An engine that shows all that a cause leaves often or more, and is looked at there only.</summary>
    private static EngineCase Showing(EngineLayout layout, Hypothesis hypothesis, bool there)
    {
        var c = Start.Case(layout);
        c.Findings.AddRange(
            hypothesis
                .Strongest()
                .Where(p => p.Often >= Frequency.Often && Knowledge.Sign(p.Sign)!.Pattern is null)
                .Select(p => Start.Saw(p.Place, p.Sign, there ? Level(p.How) : 0))
        );
        return c;
    }

    private static int Level(Severity how) =>
        how switch
        {
            Severity.Slight => 1,
            Severity.Severe => 3,
            _ => 2,
        };

    [Theory]
    [MemberData(nameof(Ids))]
    public void What_a_cause_usually_leaves_puts_it_among_the_first_three(string cause)
    {
        var (layout, hypothesis) = Placed(cause).ShouldNotBeNull($"no engine of this test can have {cause}");
        var answer = Tracer.Ranking(Showing(layout, hypothesis, there: true).TraceLog(), Start.Table(layout), Knowledge);
        // A kind is told within its cause, or as what brought another about.
        answer
            .Ranking.Take(3)
            .Any(r => r.Cause == cause || r.Kinds.Any(k => k.Cause == cause) || r.KindOf == hypothesis.Cause.Name)
            .ShouldBeTrue(string.Join(", ", answer.Ranking.Select(r => r.Cause)));
        if (answer.Ranking.FirstOrDefault(r => r.Cause == cause) is not { } own)
        {
            return;
        }

        own.Chain.ShouldContain(l => l.Status == LinkStatus.Ticked);
        own.Chain.ShouldAllOfSomeBe(l => l.Status != LinkStatus.Contradicted);
        own.Lower.ShouldBeLessThanOrEqualTo(own.Probability + 1e-9);
        own.Upper.ShouldBeGreaterThanOrEqualTo(own.Probability - 1e-9);
    }

    /// <summary>
    /// Each cause alone, from the three signs that tell most for it: those that it leaves often and that hardly anything else does.
    /// </summary>
    [Theory]
    [MemberData(nameof(Ids))]
    public void Its_three_most_telling_signs_put_a_cause_on_top(string cause)
    {
        var (layout, hypothesis) = Placed(cause).ShouldNotBeNull();
        var table = Start.Table(layout);
        var rivals = Hypotheses
            .Of(table, Knowledge)
            .Where(h => h.Cause.Id != cause && h.Cause.KindOf != cause && hypothesis.Cause.KindOf != h.Cause.Id)
            .SelectMany(h => h.Strongest().Select(p => (p.Key, Rate: h.Prior * p.Strength)))
            .GroupBy(x => x.Key)
            .ToDictionary(g => g.Key, g => g.Sum(x => x.Rate));
        double Tells(Predicted p) =>
            Math.Log(p.Strength / (Knowledge.Sign(p.Sign)!.Leak.Probability() + rivals.GetValueOrDefault(p.Key) + 1e-6)) * p.Strength;
        var three = hypothesis
            .Strongest()
            .Where(p => Knowledge.Sign(p.Sign)! is { Pattern: null })
            .GroupBy(p => p.Sign)
            .Select(g => g.MaxBy(Tells)!)
            .OrderByDescending(Tells)
            .Take(3)
            .ToArray();
        var c = Start.Case(layout);
        c.Findings.AddRange(three.Where(p => !Knowledge.Sign(p.Sign)!.Measured).Select(p => Start.Saw(p.Place, p.Sign, Level(p.How))));
        // What it cannot be without was asked for.
        foreach (var risk in hypothesis.Cause.Risks.Where(r => r.Needed))
        {
            c.Risks[risk.Risk] = true;
        }

        var measured = three
            .Where(p => Knowledge.Sign(p.Sign)!.Measured)
            .Select(p => new MeasuredSign(p.Sign, p.Place, 0.98, 0.02, Fact.Text("figure")));
        var answer = Tracer.Ranking(c.TraceLog(), table, Knowledge, [.. measured]);
        var told = answer.Ranking;
        told.ShouldNotBeEmpty();
        (
            told[0].Cause == cause
            || told[0].KindOf == hypothesis.Cause.Name
            || told[0].Kinds.Any(k => k.Cause == cause)
            || told[0].Then.Any(t => t.Cause == cause)
            || Knowledge.Cause(told[0].Cause)!.KindOf == cause
            || hypothesis.Cause.KindOf == told[0].Cause
            || (hypothesis.Cause.KindOf.Length > 0 && Knowledge.Cause(hypothesis.Cause.KindOf)!.Name == told[0].KindOf)
        ).ShouldBeTrue(
            $"{string.Join(", ", c.Findings.Select(f => $"{f.Sign}@{f.Place}"))}: {string.Join(", ", told.Take(4).Select(r => $"{r.Cause} {r.Place} {r.Probability:0.00}"))}"
        );
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void The_same_places_looked_at_and_clean_speak_against_it(string cause)
    {
        var (layout, hypothesis) = Placed(cause).ShouldNotBeNull();
        var prior = hypothesis.Prior;
        var answer = Tracer.Ranking(Showing(layout, hypothesis, there: false).TraceLog(), Start.Table(layout), Knowledge);
        var own = answer.Ranking.FirstOrDefault(r => r.Cause == cause && r.Place == hypothesis.Seat);
        (own?.Probability ?? 0).ShouldBeLessThan(prior / 2);
    }

    [Fact]
    public void Every_cause_can_be_reviewed()
    {
        Knowledge.Causes.ShouldAllOfSomeBe(s => s.Prove.Length > 10 && s.Prevent.Length > 5 && s.Provenance.Length > 0 && s.Family.Length > 0);
        Knowledge.Causes.ShouldAllOfSomeBe(s => s.Chain.Count >= 1 && s.Chain.All(l => l.Says.EndsWith('.')));
        Knowledge.Causes.SelectMany(s => s.ConfusedWith).ShouldAllOfSomeBe(c => Knowledge.Cause(c) != null);
        Knowledge.Causes.ShouldAllOfSomeBe(s => !s.ConfusedWith.Contains(s.Id));
        // Where the work to prove it can hurt somebody, it says so.
        Knowledge.Cause("injector-failed")!.Caution.ShouldNotBeEmpty();
        Knowledge.Cause("joint-blown")!.Caution.ShouldNotBeEmpty();
        Knowledge.Cause("liquid-lock")!.Caution.ShouldNotBeEmpty();
    }

    /// <summary>A practitioner can read why the words of a family are what they are, and disagree.</summary>
    [Fact]
    public void Every_family_is_argued()
    {
        var argued = Directory.GetFiles(Path.Combine(Start.Root(), "docs", "causes"), "*.md").Select(Path.GetFileNameWithoutExtension).ToHashSet();
        var families = Knowledge.Causes.Select(c => c.Family).Distinct().ToArray();
        families.ShouldAllOfSomeBe(f => argued.Contains(f.Replace(",", "").Replace(' ', '-')));
        argued.Count.ShouldBe(families.Length + 1, "one file a family, and what holds for all");
    }

    [Fact]
    public void Every_sign_says_what_it_takes_to_look()
    {
        Knowledge.Signs.ShouldAllOfSomeBe(s => s.With.Length > 0);
        Knowledge.Signs.Where(s => s.Measured && s.Pattern is null).ShouldAllOfSomeBe(s => !s.With.Contains("eye"));
    }

    /// <summary>A cause of few signs is told apart by none of them: each that ships leaves at least eight.</summary>
    [Fact]
    public void No_cause_is_thin() =>
        KnowledgeBase
            .BuiltIn.Causes.Where(c => c.Chain.SelectMany(l => l.Predicts).Select(p => p.Sign).Distinct().Count() < 8)
            .Select(c => c.Id)
            .ShouldBeEmpty();
}

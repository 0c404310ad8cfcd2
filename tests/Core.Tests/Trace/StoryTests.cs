using VividSleuth.Core.Arrival;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>Every story that ships, tried on an engine that may have it.</summary>
public sealed class StoryTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    private static readonly EngineLayout[] Layouts =
    [
        Engines.InlineSix with
        {
            Cylinders = 4,
            FiringOrder = [1, 3, 4, 2],
        },
        Engines.InlineSix with
        {
            Cylinders = 4,
            FiringOrder = [1, 3, 4, 2],
            Fuel = FuelSystem.Diesel,
        },
        Engines.InlineSix with
        {
            ValveGear = ValveGear.TwinOverhead,
            InletValves = 2,
            ExhaustValves = 2,
        },
        Engines.TwoStrokeTwin,
        Engines.VeeEight with
        {
            ValveGear = ValveGear.TwinOverhead,
        },
    ];

    public static TheoryData<string> Ids() => [.. KnowledgeBase.BuiltIn.Stories.Select(s => s.Id)];

    private static (EngineLayout Layout, Hypothesis Hypothesis)? Placed(string story)
    {
        foreach (var layout in Layouts)
        {
            if (Hypotheses.Of(Engines.Table(layout), Knowledge).Where(h => h.Story.Id == story).ToArray() is { Length: > 0 } placed)
            {
                return (layout, placed[placed.Length / 2]);
            }
        }

        return null;
    }

    /// <summary>An engine that shows all that a story leaves often or more, and is looked at there only.</summary>
    private static EngineCase Showing(EngineLayout layout, Hypothesis hypothesis, int level)
    {
        var c = Engines.Case(layout);
        c.Findings.AddRange(
            hypothesis
                .Strongest()
                .Where(p => p.Often >= Frequency.Often && Knowledge.Sign(p.Sign)!.Pattern is null)
                .Select(p => Engines.Saw(p.Place, p.Sign, level))
        );
        return c;
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void What_a_story_usually_leaves_puts_it_among_the_first_three(string story)
    {
        var (layout, hypothesis) = Placed(story).ShouldNotBeNull($"no engine of this test can have {story}");
        var answer = Tracer.Answer(Showing(layout, hypothesis, 2), Engines.Table(layout), Knowledge, []);
        answer.Ranking.Take(3).Select(r => r.Story).ShouldContain(story);
        var own = answer.Ranking.First(r => r.Story == story);
        own.Chain.ShouldContain(l => l.Status == LinkStatus.Ticked);
        own.Chain.ShouldAllBe(l => l.Status != LinkStatus.Contradicted);
        own.Lower.ShouldBeLessThanOrEqualTo(own.Probability + 1e-9);
        own.Upper.ShouldBeGreaterThanOrEqualTo(own.Probability - 1e-9);
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void The_same_places_looked_at_and_clean_speak_against_it(string story)
    {
        var (layout, hypothesis) = Placed(story).ShouldNotBeNull();
        var prior = hypothesis.Prior;
        var answer = Tracer.Answer(Showing(layout, hypothesis, 0), Engines.Table(layout), Knowledge, []);
        var own = answer.Ranking.FirstOrDefault(r => r.Story == story && r.Place == hypothesis.Seat);
        (own?.Probability ?? 0).ShouldBeLessThan(prior / 2);
    }

    [Fact]
    public void Every_story_can_be_reviewed()
    {
        Knowledge.Stories.ShouldAllBe(s => s.Prove.Length > 10 && s.Prevent.Length > 5 && s.Provenance.Length > 0 && s.Family.Length > 0);
        Knowledge.Stories.ShouldAllBe(s => s.Chain.Count >= 1 && s.Chain.All(l => l.Says.EndsWith('.')));
        Knowledge.Stories.SelectMany(s => s.ConfusedWith).ShouldAllBe(c => Knowledge.Story(c) != null);
        Knowledge.Stories.ShouldAllBe(s => !s.ConfusedWith.Contains(s.Id));
        // Where the work to prove it can hurt somebody, it says so.
        Knowledge.Story("injector-failed")!.Caution.ShouldNotBeEmpty();
        Knowledge.Story("joint-blown")!.Caution.ShouldNotBeEmpty();
        Knowledge.Story("liquid-lock")!.Caution.ShouldNotBeEmpty();
    }

    [Fact]
    public void Every_sign_says_what_it_takes_to_look()
    {
        Knowledge.Signs.ShouldAllBe(s => s.With.Length > 0);
        Knowledge.Signs.Where(s => s.Measured && s.Pattern is null).ShouldAllBe(s => !s.With.Contains("eye"));
    }
}

using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Tests.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>What is heard while the engine runs is asked for only where it can run, and where there is something to tell apart. Common practice, no source.</summary>
public sealed class RunningSignsTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    /// <summary>All that is proposed to be looked for, one after the other, with each not there.</summary>
    private static HashSet<string> Proposed(EngineLayout layout, OnTheBench bench, string told = "knock", int rounds = 12)
    {
        var table = Start.Table(layout);
        var findings = new List<Finding> { Start.Saw("EN", told, 2) };
        var proposed = new HashSet<string>(StringComparer.Ordinal);
        for (var round = 0; round < rounds; round++)
        {
            var next = Tracer.Answer(new TraceLog([.. findings], new Dictionary<string, bool>()), table, Knowledge, [], bench).NextChecks;
            if (next.Count == 0)
            {
                break;
            }

            foreach (var check in next)
            {
                proposed.Add(check.Sign);
                findings.Add(Start.Saw(check.Place, check.Sign, 0));
            }
        }

        return proposed;
    }

    [Fact]
    public void A_cylinder_is_cut_out_only_where_there_is_another()
    {
        Proposed(Start.InlineSix, OnTheBench.Open, "power-low").ShouldContain("misfire");
        var single = Start.InlineSix with { Arrangement = Arrangement.Single, Cylinders = 1, FiringOrder = [1] };
        foreach (var sign in Knowledge.Signs.Where(s => s.Several))
        {
            sign.Fits(Start.Table(Start.InlineSix)).ShouldBeTrue(sign.Id);
            sign.Fits(Start.Table(single)).ShouldBeFalse(sign.Id);
        }

        var proposed = Proposed(single, OnTheBench.Open, "power-low");
        proposed.ShouldNotContain("noise-goes-with-it");
        proposed.ShouldNotContain("misfire");
        proposed.ShouldNotBeEmpty();
    }

    [Fact]
    public void An_engine_without_a_sump_has_no_breather_to_listen_at()
    {
        var proposed = Proposed(Start.TwoStrokeTwin, OnTheBench.Open, "power-low");
        proposed.ShouldNotContain("puffs-with-it");
        proposed.ShouldNotContain("blow-by-high");
        proposed.ShouldNotBeEmpty();
        foreach (var sign in Knowledge.Signs.Where(s => s.Needs.Count > 0))
        {
            sign.Needs.ShouldAllBe(k => PartKinds.Find(k) != null, sign.Id);
            sign.Fits(Start.Table(Start.InlineSix)).ShouldBeTrue(sign.Id);
        }
    }

    /// <summary>A cold start with an ear at the bore was proposed with the head off.</summary>
    [Fact]
    public void Nothing_is_listened_for_once_something_is_off()
    {
        var c = Start.Case();
        var table = Start.Table(c.Layout);
        var heard = Knowledge.Signs.Where(s => s.Running).ToArray();
        heard.Length.ShouldBeGreaterThan(7);
        var engine = table.Parse("EN");
        heard.ShouldAllBe(s => !StripTests.Book(c).Destroyed(s, engine));
        var off = StripTests.Plan(c).Steps.First(s => s.Releases.Count > 0);
        c.Steps.Add(StripTests.Record(off.Id));
        heard.ShouldAllBe(s => StripTests.Book(c).Destroyed(s, engine));
        var bench = new OnTheBench(null, _ => 0, StripTests.Book(c).Destroyed);
        Proposed(c.Layout, bench, rounds: 4).ShouldAllBe(s => !Knowledge.Sign(s)!.Running);
    }

    /// <summary>What was heard of a cylinder is no look at its rod, and opens no lock of the strip.</summary>
    [Fact]
    public void A_part_is_not_read_by_what_was_heard_of_it()
    {
        var c = Start.Case();
        var before = StripTests.Plan(c).Steps.Sum(s => s.Obstacles.Count);
        c.Findings.AddRange(Enumerable.Range(1, 6).Select(n => Start.Saw($"P{n}", "puffs-with-it", 0)));
        StripTests.Plan(c).Steps.Sum(s => s.Obstacles.Count).ShouldBe(before);
        c.Findings.AddRange(Enumerable.Range(1, 6).Select(n => Start.Saw($"P{n}", "crown-burnt", 0)));
        StripTests.Plan(c).Steps.Sum(s => s.Obstacles.Count).ShouldBeLessThan(before);
    }
}

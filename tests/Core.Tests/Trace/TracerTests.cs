using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

public sealed class TracerTests
{
    private static TraceAnswer Answer(EngineCase c, params MeasuredSign[] measured) =>
        Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), KnowledgeBase.BuiltIn, measured);

    private static EngineCase With(params Finding[] findings)
    {
        var c = Start.Case();
        c.Findings.AddRange(findings);
        return c;
    }

    [Fact]
    public void A_case_with_no_evidence_says_so_and_has_about_one_root_cause()
    {
        var answer = Answer(Start.Case());
        answer.Assumed.ShouldContain(a => a.Contains("Nothing has been looked at"));
        answer.NoneOfThese.ShouldBeInRange(0.2, 0.4);
        answer.Ranking.ShouldBeEmpty("base rates are not told as if something had been found");
        answer.NextChecks.ShouldNotBeEmpty();
        answer.Ask.ShouldNotBeEmpty();
    }

    /// <summary>A second scavenge pump that nobody foresaw is read as a pump, and what it shows speaks for what wears pumps out.</summary>
    [Fact]
    public void A_part_that_only_this_engine_has_is_evidence_too()
    {
        var pump = new OwnPart("QP", "scavenge pump") { Like = "oil-pump" };
        var layout = Start.InlineSix with { OwnParts = [pump] };
        RankedHypothesis? Pump(params Finding[] findings)
        {
            var c = Start.Case(layout);
            c.Findings.AddRange(findings);
            return Answer(c).Ranking.FirstOrDefault(r => r.Cause == "oil-pump-failed");
        }

        var worn = Pump(Start.Saw("QP", "oil-pump-worn", 3), Start.Saw("EN", "pressure-low", 2)).ShouldNotBeNull();
        worn.For.ShouldContain(f => f.Place == "QP");
        // What an earlier layout left behind was never in the engine.
        var left = Start.Case(Start.InlineSix with { OwnParts = [pump with { Left = true }] });
        left.Findings.Add(Start.Saw("QP", "oil-pump-worn", 3));
        Answer(left).Ranking.ShouldAllBe(r => r.For.Count == 0);
    }

    [Fact]
    public void The_expected_number_of_root_causes_does_not_grow_with_the_cylinders()
    {
        double None(EngineLayout l) => Answer(Start.Case(l)).NoneOfThese;
        var sixteen = Start.VeeEight with { Cylinders = 16, FiringOrder = [.. Enumerable.Range(1, 16)] };
        None(sixteen).ShouldBe(None(Start.FlatFour), 0.05);
    }

    /// <summary>Texts on bearing damage (ISO 7146-1, value from memory): one bearing dry and blue, its peers sound, is its own oil way.</summary>
    [Fact]
    public void One_blue_bearing_among_sound_ones_is_its_own_oil_way()
    {
        var answer = Answer(
            With(
                Start.Saw("R3U", "overlay-wiped", 3),
                Start.Saw("R3L", "overlay-wiped", 3),
                Start.Saw("R3U", "heat-colour", 3),
                Start.Saw("K3", "heat-colour", 3),
                Start.Saw("K3", "journal-pickup", 3),
                Start.Saw("R2U", "overlay-wiped", 0),
                Start.Saw("R4U", "overlay-wiped", 0),
                Start.Saw("R3C", "cap-step", 0)
            )
        );
        answer.Ranking[0].Cause.ShouldBe("gallery-blocked");
        answer.Ranking[0].Place.ShouldBe("K3");
    }

    /// <summary>All bearings alike and a choked screen: starvation (common practice, no source).</summary>
    [Fact]
    public void All_bearings_dry_with_a_choked_screen_is_starvation()
    {
        // No strings of sealant in pan or screen: it was not choked by those.
        var c = With(
            Start.Saw("PK", "screen-blocked", 3),
            Start.Saw("EN", "pressure-low", 3),
            Start.Saw("PK", "sealant-strings", 0),
            Start.Saw("PA", "sealant-strings", 0)
        );
        for (var n = 1; n <= 6; n++)
        {
            c.Findings.Add(Start.Saw($"R{n}U", "overlay-wiped", 2));
            c.Findings.Add(Start.Saw($"M{n}L", "overlay-wiped", 2));
        }

        var answer = Answer(c);
        answer.Ranking[0].Cause.ShouldBe("oil-starvation");
        answer.Ranking[0].Together.ShouldBeGreaterThan(0.85);
    }

    [Fact]
    public void Recording_a_finding_moves_the_answer_and_order_of_entry_does_not()
    {
        var stamp = Start.Saw("R4U", "stamp-differs", 3);
        var wiped = Start.Saw("R4U", "overlay-wiped", 3);
        double Wrong(params Finding[] f) =>
            Answer(With(f)).Ranking.FirstOrDefault(h => h is { Cause: "wrong-size-shell", Place: "R4" })?.Probability ?? 0;
        var alone = Wrong(wiped);
        Wrong(wiped, stamp).ShouldBeGreaterThan(alone + 0.1);
        Wrong(wiped, stamp).ShouldBe(Wrong(stamp, wiped));
    }

    [Fact]
    public void Measured_size_speaks_as_soft_evidence()
    {
        var c = With(Start.Saw("R4U", "overlay-wiped", 3));
        double Wrong(params MeasuredSign[] measured) =>
            Answer(c, measured).Ranking.FirstOrDefault(h => h is { Cause: "wrong-size-shell", Place: "R4" })?.Probability ?? 0;
        MeasuredSign Sizes(double ifPresent, double ifAbsent) => new("size-mismatch", "R4", ifPresent, ifAbsent, Fact.Text("sizes"));
        Answer(c, Sizes(0.99, 0.01)).Ranking[0].Cause.ShouldBe("wrong-size-shell");
        double[] rising = [Wrong(Sizes(0.01, 0.99)), Wrong(Sizes(0.3, 0.7)), Wrong(), Wrong(Sizes(0.7, 0.3)), Wrong(Sizes(0.99, 0.01))];
        rising.ShouldBeInOrder();
        rising[^1].ShouldBeGreaterThan(rising[0] + 0.2);
        Wrong(Sizes(0.5, 0.5)).ShouldBe(Wrong(), 1e-9);
    }

    [Fact]
    public void A_risk_multiplies_the_odds_and_is_no_sign()
    {
        var c = With(Start.Saw("R4U", "overlay-wiped", 3), Start.Saw("R4U", "overlay-fatigue", 2));
        double P(EngineCase x) => Answer(x).Ranking.First(h => h is { Cause: "wrong-size-shell", Place: "R4" }).Probability;
        var unknown = P(c);
        c.Risks["crank-reground"] = true;
        var yes = P(c);
        c.Risks["crank-reground"] = false;
        var no = P(c);
        yes.ShouldBeGreaterThan(unknown);
        no.ShouldBeLessThan(unknown);
        Answer(c).SignsRecorded.ShouldBe(2);
    }

    /// <summary>I. J. Good: weight of evidence is 10 log₁₀ of the Bayes factor. With one cause left, that is p(sign|cause)/leak.</summary>
    [Fact]
    public void Decibans_are_ten_times_the_logarithm_of_the_odds_ratio()
    {
        var knowledge = CheckedKnowledge.Load([
            (
                "knowledge/signs/a.yaml",
                string.Concat(
                    new[] { "s", "s2" }.Select(id =>
                        $"- {{id: {id}, name: S, on: [rod], leak: rarely, levels: [a, b, c], looks: l, how: h, with: w, confusedWith: c, draw: rod, provenance: test}}\n"
                    )
                )
            ),
            (
                "knowledge/causes/a.yaml",
                "- {id: t, name: T, anchor: cylinder, seat: rod, base: often, provenance: test, chain: [{says: x, predicts: [{sign: s, on: [rod], often: usually}, {sign: s2, on: [rod], often: usually}]}]}"
            ),
        ]);
        var c = With(Start.Saw("R1", "s", 2));
        var answer = Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), knowledge, []);
        var weight = answer.Ranking[0].For.ShouldHaveSingleItem();
        // Marked: 0.28 of what appears of itself (slight) and 0.4 of what a cause leaves in any severity, by the one table.
        double NoWorse(double p, double worse) => 1 - (p * worse);
        var of = (NoWorse(0.05, 0.07) * NoWorse(0.8, 0.3)) - (NoWorse(0.05, 0.35) * NoWorse(0.8, 0.7));
        weight.Decibans.ShouldBe(10 * Math.Log10(of / (0.05 * 0.28)), 1e-6);

        // With another sign that speaks for it, so that it is told at all.
        c.Findings[0].Sign = "s2";
        c.Findings.Add(Start.Saw("R1", "s", 0));
        var against = Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), knowledge, []).Ranking[0].Against.ShouldHaveSingleItem();
        against.Decibans.ShouldBe(10 * Math.Log10(0.2), 1e-6);
    }

    [Fact]
    public void Contradictory_findings_are_kept_told_and_count_for_nothing()
    {
        var answer = Answer(With(Start.Saw("R4U", "overlay-wiped", 3), Start.Saw("R4U", "overlay-wiped", 0)));
        answer.Contradictions.ShouldHaveSingleItem().ShouldContain("R4U");
        answer.SignsRecorded.ShouldBe(0);
    }

    [Fact]
    public void Links_are_ticked_contradicted_or_open()
    {
        var answer = Answer(
            With(
                Start.Saw("R3U", "heat-colour", 3),
                Start.Saw("K3", "journal-pickup", 3),
                Start.Saw("R3U", "overlay-wiped", 3),
                Start.Saw("PA", "sealant-strings", 0)
            )
        );
        var blocked = answer.Ranking.Single(h => h is { Cause: "gallery-blocked", Place: "K3" });
        // Strings are only sometimes left: that they are missing contradicts nothing.
        blocked.Chain[0].Status.ShouldBe(LinkStatus.Open);
        blocked.Chain[1].Status.ShouldBe(LinkStatus.Ticked);
        // The stamp of such a shell usually differs: that it does not contradicts that sets were mixed.
        var mixed = Answer(
            With(
                Start.Saw("R3U", "overlay-wiped", 3),
                Start.Saw("R3U", "overlay-fatigue", 3),
                Start.Saw("EN", "knock", 3),
                Start.Saw("R3U", "stamp-differs", 0)
            ),
            new MeasuredSign("clearance-large", "R3", 0.99, 0.01, Fact.Text("large"))
        )
            .Ranking.Single(h => h is { Cause: "wrong-size-shell", Place: "R3" });
        mixed.Chain[0].Status.ShouldBe(LinkStatus.Contradicted);
        mixed.Chain[^1].Status.ShouldBe(LinkStatus.Ticked);
    }

    [Fact]
    public void The_next_check_is_new_tells_apart_and_says_what_each_outcome_would_do()
    {
        var c = With(Start.Saw("R4U", "overlay-wiped", 3), Start.Saw("EN", "knock", 3));
        var answer = Answer(c);
        var next = answer.NextChecks[0];
        c.Findings.ShouldNotContain(f => f.Sign == next.Sign && f.Place == next.Place);
        next.BitsPerMinute.ShouldBeGreaterThan(0);
        answer.NextChecks.Select(n => Math.Round(n.BitsPerMinute, 5)).ShouldBeInOrder(SortDirection.Descending);

        // Doing what was advised gives just what was foretold.
        var seen = answer.NextChecks.First(n => !n.Measured);
        c.Findings.Add(Start.Saw(seen.Place, seen.Sign, 2));
        Told(Answer(c), seen).ShouldBe(seen.IfPresent, 0.05);
    }

    /// <summary>What an answer tells of the cause that a check is about, with its kinds.</summary>
    internal static double Told(TraceAnswer answer, NextCheck check) =>
        answer
            .Ranking.FirstOrDefault(r => (r.KindOf == check.About || r.Name == check.About) && (r.KindOf.Length > 0 || r.Seat == check.AboutPlace))
            ?.Together
        ?? 0;

    [Fact]
    public void Places_follow_pin_bank_companion_and_oil()
    {
        var vee = Start.Table(Start.VeeEight);
        string At(Anchor a, int n, string kind, Relation r, AddressTable? t = null) =>
            string.Join(' ', Places.Resolve(t ?? vee, a, n, kind, r).Select(x => x.Code));
        At(Anchor.Cylinder, 3, "rod", Relation.SamePin).ShouldBe("R4");
        At(Anchor.Cylinder, 3, "rod", Relation.Neighbours).ShouldBe("R1 R5");
        At(Anchor.Cylinder, 3, "rod", Relation.Bank).ShouldBe("R1 R5 R7");
        At(Anchor.Cylinder, 3, "main-journal", Relation.Same).ShouldBe("M2 M3");
        At(Anchor.Cylinder, 3, "head", Relation.Same).ShouldBe("H1");
        At(Anchor.Cylinder, 4, "head", Relation.Same).ShouldBe("H2");
        At(Anchor.Cylinder, 3, "pan", Relation.Same).ShouldBe("PA");
        At(Anchor.Main, 2, "rod", Relation.Same).ShouldBe("R1 R2 R3 R4");
        At(Anchor.Cylinder, 7, "crankpin", Relation.Downstream).ShouldBe("");
        At(Anchor.Cylinder, 5, "main-journal", Relation.Downstream).ShouldBe("M4 M5");
        At(Anchor.Engine, 0, "crankpin", Relation.FarEnd).ShouldBe("K3 K4");
        At(Anchor.Cylinder, 1, "rod", Relation.Companion, Start.Table(Start.InlineSix)).ShouldBe("R6");
        At(Anchor.Cylinder, 1, "rod", Relation.Others, Start.Table(Start.FlatFour)).ShouldBe("R2 R3 R4");
    }
}

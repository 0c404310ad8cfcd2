using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>A shop's own causes, and what its closed cases say of the words.</summary>
public sealed class OwnCauseTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    private static KnownCause Own(string id = "wasps-in-the-vent", Frequency often = Frequency.Always) =>
        new()
        {
            Id = id,
            Name = "Wasps in the vent",
            Family = "head, cooling and others",
            Anchor = Anchor.Engine,
            Seat = "valve-cover",
            Base = Frequency.Often,
            Chain =
            [
                new ChainLink
                {
                    Says = "A nest fills the vent.",
                    Predicts =
                    [
                        new Prediction
                        {
                            Sign = "vent-blocked",
                            On = ["valve-cover"],
                            Often = often,
                        },
                    ],
                },
            ],
            Prove = "Look into the vent.",
            Prevent = "A mesh over its end.",
            Provenance = "this shop",
        };

    private static TraceAnswer Answer(KnowledgeBase knowledge, params Finding[] findings)
    {
        var c = Start.Case();
        c.Findings.AddRange(findings);
        return Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), knowledge, []);
    }

    [Fact]
    public void An_own_cause_is_reasoned_with_and_marked_as_the_shops()
    {
        var knowledge = Knowledge.With([Own()]);
        knowledge.Causes.Count.ShouldBe(Knowledge.Causes.Count + 1);
        var found = Answer(knowledge, Start.Saw("H1V", "vent-blocked", 3)).Ranking.Single(r => r.Cause == "wasps-in-the-vent");
        found.Shop.ShouldBeTrue();
        found.Probability.ShouldBeGreaterThan(0.3);
        Knowledge.Cause("wasps-in-the-vent").ShouldBeNull("what ships stays as it is");
        Knowledge.Causes.ShouldAllOfSomeBe(s => !s.Shop);
    }

    [Fact]
    public void The_shops_version_takes_the_place_of_one_that_ships_and_moves_the_answer()
    {
        Finding[] seen = [Start.Saw("H1V", "vent-blocked", 3), Start.Saw("EN", "blow-by-high", 0)];
        var mine = CauseFile.Read("s", CauseFile.Write([Knowledge.Cause("crankcase-pressure")!]))[0];
        mine.Chain.SelectMany(l => l.Predicts).Single(p => p.Sign == "blow-by-high").Often = Frequency.Always;
        var changed = Knowledge.With([mine]);
        changed.Causes.Count.ShouldBe(Knowledge.Causes.Count);
        changed.Cause("crankcase-pressure")!.Shop.ShouldBeTrue();
        changed.Shipping("crankcase-pressure")!.Shop.ShouldBeFalse();
        double P(KnowledgeBase k) => Answer(k, seen).Ranking.Where(r => r.Cause == "crankcase-pressure").Sum(r => r.Probability);
        P(changed).ShouldBeLessThan(P(Knowledge));
    }

    [Fact]
    public void A_cause_that_does_not_hold_is_refused_field_by_field()
    {
        var cause = Own(id: "Not An Id", often: Frequency.Never);
        cause.Prove = " ";
        cause.Seat = "wing";
        cause
            .Chain[0]
            .Predicts.Add(
                new Prediction
                {
                    Sign = "knock",
                    On = ["piston"],
                    Often = Frequency.Often,
                }
            );
        cause.Risks.Add(new RiskFactor { Risk = "full-moon", Times = 2 });
        cause.ConfusedWith.Add("nobody");
        var fields = OwnCauses.Check(cause, Knowledge).Select(p => p.Field).ToArray();
        fields.ShouldBe(["prove", "id", "seat", "risks.0", "chain.0.predicts.0.often", "chain.0.predicts.1.on", "confusedWith"], ignoreOrder: true);
        Should.Throw<ProblemException>(() => OwnCauses.Over(Knowledge, [cause])).Problems[0].Field.ShouldStartWith("Not An Id.");
        OwnCauses.Check(Own(), Knowledge).ShouldBeEmpty();
    }

    [Fact]
    public void Causes_go_to_a_file_and_come_back_the_same()
    {
        var text = CauseFile.Write(Knowledge.Causes);
        var back = CauseFile.Read("own.yaml", text);
        CauseFile.Write(back).ShouldBe(text);
        back.Count.ShouldBe(Knowledge.Causes.Count);
        back[3].Chain[0].Predicts[0].Often.ShouldBe(Knowledge.Causes[3].Chain[0].Predicts[0].Often);
        Should.Throw<ProblemException>(() => CauseFile.Read("own.yaml", "- id: x\n  colour: red\n")).Problems[0].Field.ShouldBe("own.yaml:2");
    }

    /// <summary>A case closed by a person as a cause at a place, with whether a sign was seen.</summary>
    private static EngineCase Closed(string cause, string place, Confidence sure, params Finding[] findings)
    {
        var c = Start.Case();
        c.Findings.AddRange(findings);
        c.Conclusions.Add(
            new Conclusion
            {
                Id = Guid.CreateVersion7(),
                Cause = cause,
                Place = place,
                Confidence = sure,
                Reasons = "seen",
            }
        );
        return c;
    }

    [Fact]
    public void Counts_of_closed_cases_offer_the_word_that_fits_ten_times_better()
    {
        // A knock is told as usual; here it was not heard in six of seven.
        var cases = Enumerable
            .Range(0, 7)
            .Select(i => Closed("wrong-size-shell", "R4", Confidence.Proven, Start.Saw("EN", "knock", i == 0 ? 2 : 0)))
            .ToArray();
        var offer = LearnedCounts.Of(cases.Select(c => c.Outcome()), Knowledge).Single(o => o.Sign == "knock");
        offer.Now.ShouldBe(Frequency.Usually);
        (offer.Seen, offer.Of).ShouldBe((1, 7));
        offer.Offered.ShouldBe(Frequency.Rarely);
        // Binomial counts: (p/q)¹ ((1 − p)/(1 − q))⁶ with what each word shows above the leak, rarely.
        double Shows(double word) => 1 - (0.95 * (1 - word));
        var ratio = Shows(0.05) / Shows(0.8) * Math.Pow((1 - Shows(0.05)) / (1 - Shows(0.8)), 6);
        offer.Times.ShouldBe(ratio, ratio * 1e-6);
        var word = Knowledge.Cause("wrong-size-shell")!.Chain[offer.Link].Predicts[offer.Prediction];
        word.Sign.ShouldBe("knock");
        word.Often.ShouldBe(Frequency.Usually, "nothing is taken over by itself");
    }

    [Fact]
    public void Few_counts_and_open_cases_offer_nothing()
    {
        Finding[] seen = [Start.Saw("EN", "knock", 0)];
        LearnedCounts
            .Of([Closed("wrong-size-shell", "R4", Confidence.Proven, [Start.Saw("EN", "knock", 2)]).Outcome()], Knowledge)
            .ShouldNotContain(o => o.Sign.Length > 0);
        var possible = Enumerable.Range(0, 9).Select(_ => Closed("wrong-size-shell", "R4", Confidence.Possible, seen)).ToArray();
        LearnedCounts.Of(possible.Select(c => c.Outcome()), Knowledge).ShouldBeEmpty();
        possible.ShouldAllOfSomeBe(c => !LearnedCounts.Closed(c.Conclusions));
        // A place that the finding does not speak of says nothing of it.
        var elsewhere = Enumerable.Range(0, 9).Select(_ => Closed("wrong-size-shell", "R4", Confidence.Proven, Start.Saw("R2U", "stamp-differs", 0)));
        LearnedCounts.Of(elsewhere.Select(c => c.Outcome()), Knowledge).ShouldNotContain(o => o.Sign == "stamp-differs");
    }

    [Fact]
    public void How_often_a_cause_is_met_is_offered_too_and_a_finding_taken_back_does_not_count()
    {
        var cases = Enumerable.Range(0, 12).Select(_ => Closed("wrong-size-shell", "R4", Confidence.Probable)).ToArray();
        var met = LearnedCounts.Of(cases.Select(c => c.Outcome()), Knowledge).Single(o => o.Sign.Length == 0);
        (met.Seen, met.Of, met.Link).ShouldBe((12, 12, -1));
        ((int)met.Offered).ShouldBeGreaterThan((int)met.Now);
        foreach (var c in cases)
        {
            c.Conclusions[0].WithdrawnAt = DateTimeOffset.UtcNow;
        }

        LearnedCounts.Of(cases.Select(c => c.Outcome()), Knowledge).ShouldBeEmpty();
    }
}

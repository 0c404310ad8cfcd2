using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>The inference on engines that its own causes drew, and practice on them.</summary>
public sealed class DrawnTests
{
    private static readonly KnowledgeBase Knowledge = KnowledgeBase.BuiltIn;

    [Fact]
    public void The_same_seed_draws_the_same_engine_and_another_seed_another()
    {
        static string Told(int seed)
        {
            var drawn = DrawnCase.Draw(Start.InlineSix, Knowledge, seed);
            return string.Join(',', drawn.Causes.Select(c => c.Cause + c.Place))
                + string.Concat(drawn.Signs.Select(s => drawn.Look(s.Sign, s.Place)));
        }

        Told(11).ShouldBe(Told(11));
        Told(11).ShouldNotBe(Told(12));
    }

    /// <summary>Prior: an engine on a bench has one to one and a half root causes on average, whatever its number of cylinders.</summary>
    [Fact]
    public void Drawn_engines_have_as_many_causes_as_the_prior_says()
    {
        foreach (var layout in new[] { Start.InlineSix, Start.TwoStrokeTwin })
        {
            var mean = Enumerable.Range(1, 400).Average(s => DrawnCase.Draw(layout, Knowledge, s).Causes.Count);
            mean.ShouldBeInRange(1.0, 1.5);
        }
    }

    /// <summary>Most of what was drawn is found with half of the signs looked at, also where the truth's frequencies differ by a word.</summary>
    [Theory]
    [InlineData(0, 0.80)]
    [InlineData(1, 0.70)]
    public void A_true_cause_is_on_top_of_most_drawn_engines(int jitter, double least)
    {
        var trial = DrawnTrial.Run(Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] }, Knowledge, 250, jitter);
        trial.WithCause.ShouldBeGreaterThan(130);
        trial.OnTop.ShouldBeGreaterThan(least);
        trial.AmongThree.ShouldBeGreaterThan(trial.OnTop);
        trial.Alone.Count.ShouldBeInRange(50, trial.WithCause - 1);
        trial.Alone.OnTop.ShouldBeGreaterThan(least - 0.05);
        // The table by which a figure's trust is told: what this smaller trial finds lies within its scatter of it.
        foreach (var (tenth, told) in trial.Tenths.Zip(Calibration.Drawn).Where(t => jitter == 0 && t.First.Count >= 40))
        {
            tenth.True.ShouldBe(told.Share, 0.02 + (4 * Math.Sqrt(told.Share * (1 - told.Share) / tenth.Count)), $"told {tenth.Told:0.00}");
        }

        // What is told as nearly certain is true, and what is told as unlikely is not.
        trial.Tenths[9].True.ShouldBeGreaterThan(0.9);
        trial.Tenths[0].True.ShouldBeLessThan(0.1);
    }

    /// <summary>What the answer says it hangs on is tried: with that sign taken out the cause named leads.</summary>
    [Fact]
    public void What_the_answer_hangs_on_turns_it_when_it_is_taken_out()
    {
        var tried = 0;
        var turned = 0;
        var table = Start.Table(Start.InlineSix);
        for (var seed = 1; seed <= 60; seed++)
        {
            var drawn = DrawnCase.Draw(Start.InlineSix, Knowledge, seed);
            var random = new Random(seed);
            var findings = drawn.Signs.Where(_ => random.Next(12) == 0).Select(s => drawn.Found(s.Sign, s.Place)).ToArray();
            var answer = Tracer.Answer(new TraceLog(findings, new Dictionary<string, bool>()), table, Knowledge, []);
            // Of a fact known in several ways one of them stays when another is taken out.
            foreach (var hang in answer.HangsOn.Where(h => Knowledge.Sign(h.Sign)!.Once.Length == 0))
            {
                var without = Start.Case();
                without.Findings.AddRange(findings.Where(f => f.Sign != hang.Sign || f.Place != hang.Place));
                var then = Tracer.Answer(without.TraceLog(), table, Knowledge, []);
                turned += then.Ranking.Select(r => (r.Cause, r.Seat)).FirstOrDefault() == (answer.Ranking[0].Cause, answer.Ranking[0].Seat) ? 0 : 1;
                tried++;
            }
        }

        tried.ShouldBeGreaterThan(10);
        // Only the weightiest scenarios are re-weighted, so one in ten may just not turn.
        turned.ShouldBeGreaterThanOrEqualTo((int)(0.9 * tried));
    }

    [Fact]
    public void Damage_is_told_in_the_order_of_the_chain_and_the_rest_is_left_unaccounted()
    {
        var c = Start.Case();
        c.Findings.AddRange([
            Start.Saw("R4U", "stamp-differs", 3),
            Start.Saw("R4", "size-mismatch", 3),
            Start.Saw("R4U", "overlay-wiped", 3),
            Start.Saw("EN", "knock", 3),
            Start.Saw("C1", "plating-flaked", 1),
            Start.Saw("R2U", "overlay-wiped", 0),
        ]);
        var damage = Tracer.Answer(c.TraceLog(), Start.Table(c.Layout), Knowledge, []).Damage;
        damage.Count.ShouldBe(5, "what is absent is no damage");
        damage.First(d => d.Sign == "size-mismatch").Link.ShouldBe(0);
        damage.First(d => d.Sign == "overlay-wiped").Link.ShouldBeGreaterThan(damage.First(d => d.Sign == "knock").Link);
        damage[^1].ShouldBe(damage.Single(d => d.Sign == "plating-flaked"));
        damage[^1].Link.ShouldBe(-1);
    }

    [Fact]
    public void The_shipped_knowledge_has_nothing_to_mend()
    {
        Knowledge.Causes.Count.ShouldBeGreaterThanOrEqualTo(90);
        CauseReview.Of(Knowledge).Where(r => r.Serious).ShouldBeEmpty();
    }

    [Fact]
    public void A_review_finds_what_nobody_can_have_and_what_no_sign_tells_apart()
    {
        string Cause(string id, string applies, string sign) =>
            $$"""
                - id: {{id}}
                  name: {{id}}
                  family: test
                  anchor: cylinder
                  seat: piston
                  applies: { {{applies}} }
                  base: sometimes
                  chain: [{ says: it happens, predicts: [{ sign: {{sign}}, on: [piston], often: always }] }]
                  confusedWith: [nobody]
                  prove: look
                  prevent: nothing
                  provenance: "common practice, no source"

                """;
        var files = KnowledgeBase
            .ShippedFiles()
            // Rules of Verdict name causes that are not there then.
            .Where(f => !f.Name.Contains("/causes/", StringComparison.Ordinal) && !f.Name.Contains("/verdicts/", StringComparison.Ordinal))
            .Append(
                (
                    "knowledge/causes/test.yaml",
                    Cause("one", "cycle: four-stroke", "crown-burnt")
                        + Cause("two", "cycle: four-stroke", "crown-burnt")
                        + Cause("none", "cycle: two-stroke, valves: pushrod", "crown-pitted")
                )
            );
        var remarks = CauseReview.Of(CheckedKnowledge.Load(files));
        remarks.ShouldContain(r => r.About == "one" && r.Text.Contains("No sign tells it from two"));
        remarks.ShouldContain(r => r.About == "none" && r.Text.Contains("No engine known here"));
        remarks.ShouldContain(r => r.Text.Contains("names “nobody”"));
    }

    [Fact]
    public void Practice_gives_a_class_the_same_engine_and_the_owner_tells_only_what_he_heard()
    {
        var engine = Practice.Arrive(42, Knowledge);
        var again = Practice.Arrive(42, Knowledge);
        again.Told.ShouldBe(engine.Told);
        engine.Told.ShouldAllOfSomeBe(t => t.Level > 0 && t.Place == "EN");
        Enumerable.Range(1, 12).Select(s => Practice.Arrive(s, Knowledge).Kind).Distinct().Count().ShouldBe(3);
    }

    /// <summary>Log score (I. J. Good): sure and right makes most, sure and wrong costs most, and a guess of the base rate is nil.</summary>
    [Fact]
    public void Sure_and_right_scores_most_and_sure_and_wrong_least()
    {
        const int seed = 42;
        var truth = Practice.Commit(seed, [], [new PracticeGuess("detonation", 0.1)], Knowledge).Causes.Select(c => c.Cause).ToHashSet();
        var right = truth.First();
        var wrong = Knowledge.Causes.First(s => !truth.Contains(s.Id)).Id;
        double Score(params PracticeGuess[] g) => Practice.Commit(seed, [], g, Knowledge).LogScore;
        Score(new PracticeGuess(right, 0.95)).ShouldBeGreaterThan(Score(new PracticeGuess(right, 0.5), new PracticeGuess(wrong, 0.5)));
        Score(new PracticeGuess(right, 0.5)).ShouldBeGreaterThan(Score(new PracticeGuess(wrong, 1)));
        Score(new PracticeGuess(wrong, 1)).ShouldBeLessThanOrEqualTo(0);
        Practice.Commit(seed, [], [new PracticeGuess(right, 0.9)], Knowledge).Right.ShouldBeTrue();
    }

    [Fact]
    public void Looking_costs_minutes_once_and_the_debrief_tells_what_was_missed()
    {
        var engine = Practice.Arrive(7, Knowledge);
        var first = Practice.Commit(7, [], [new PracticeGuess("detonation", 0.5)], Knowledge);
        var left = first.Debrief.SelectMany(d => d.Left).First(t => t.There && Knowledge.Sign(t.Sign)!.Chapter != "told-and-heard");
        var look = Practice.Look(7, left.Sign, left.Place, Knowledge);
        look.Level.ShouldBeGreaterThan(0);
        var second = Practice.Commit(7, [(left.Sign, left.Place), (left.Sign, left.Place)], [new PracticeGuess("detonation", 0.5)], Knowledge);
        second.Minutes.ShouldBe(Knowledge.Sign(left.Sign)!.Minutes);
        second.Debrief.SelectMany(d => d.Left).Single(t => t.Sign == left.Sign && t.Place == left.Place).Looked.ShouldBeTrue();
        engine.Seed.ShouldBe(7);
    }

    [Fact]
    public void A_commitment_that_makes_no_sense_is_refused()
    {
        ProblemException Refused(int seed, params PracticeGuess[] g) => Should.Throw<ProblemException>(() => Practice.Commit(seed, [], g, Knowledge));
        Refused(1).Problems[0].Field.ShouldBe("guesses");
        Refused(1, new PracticeGuess("detonation", 0.7), new PracticeGuess("glazed-bores", 0.7)).Problems[0].Remedy.ShouldNotBeEmpty();
        Refused(1, new PracticeGuess("gremlins", 0.7)).Problems[0].Text.ShouldContain("gremlins");
        Refused(0, new PracticeGuess("detonation", 0.7)).Problems[0].Field.ShouldBe("seed");
        Should.Throw<ProblemException>(() => Practice.Look(1, "crown-burnt", "K1", Knowledge)).Problems[0].Field.ShouldBe("sign");
        // A pattern is judged by who looked at its parts; nobody is told it.
        Should.Throw<ProblemException>(() => Practice.Look(1, "worse-along-oil", "EN", Knowledge)).Problems[0].Remedy.ShouldContain("one by one");
    }

    /// <summary>How far a figure may be trusted is told of what was tried often enough, and never of what was not.</summary>
    [Fact]
    public void Trust_is_told_from_what_was_tried()
    {
        Calibration.Trust(0.75)!.ShouldContain("78 % was so on drawn engines");
        Calibration.Trust(0.75)!.ShouldNotContain("damage guides");
        Calibration.Trust(0.97)!.ShouldContain("19 of 19");
        Calibration.Trust(1)!.ShouldContain("90 % to 100 %");
        Calibration.Trust(0)!.ShouldContain("0 % to 10 %");
        Calibration.Drawn.Count.ShouldBe(10);
        Calibration.Written.Count.ShouldBe(10);
    }
}

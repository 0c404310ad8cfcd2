using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Tests.Knowledge;

public sealed class KnowledgeTests
{
    [Fact]
    public void What_ships_loads_and_is_enough_for_a_first_trace()
    {
        var knowledge = KnowledgeBase.BuiltIn;
        knowledge.Causes.Count.ShouldBeGreaterThanOrEqualTo(15);
        knowledge.Causes.SelectMany(s => s.ConfusedWith).ShouldAllOfSomeBe(id => knowledge.Cause(id) != null);
        knowledge.Causes.ShouldAllOfSomeBe(s => s.Prove.Length > 0 && s.Prevent.Length > 0);
        knowledge.Signs.Where(s => !s.Measured).ShouldAllOfSomeBe(s => s.Looks.Length > 0 && s.How.Length > 0);
        knowledge.Signs.Count(s => !s.Measured).ShouldBeGreaterThanOrEqualTo(180);
    }

    /// <summary>Kinds of part that the trade reads, each with how many signs it must at least have.</summary>
    [Theory]
    [InlineData("piston", 20)]
    [InlineData("ring-top", 10)]
    [InlineData("bore", 12)]
    [InlineData("rod-shell-upper", 15)]
    [InlineData("main-shell-lower", 15)]
    [InlineData("main-bearing", 12)]
    [InlineData("crankpin", 6)]
    [InlineData("crankshaft", 5)]
    [InlineData("lobe-exhaust", 4)]
    [InlineData("lifter-inlet", 4)]
    [InlineData("valve-exhaust", 8)]
    [InlineData("seat-exhaust", 4)]
    [InlineData("guide-inlet", 2)]
    [InlineData("spring-inlet", 4)]
    [InlineData("rocker-inlet", 4)]
    [InlineData("timing-chain", 2)]
    [InlineData("pan", 5)]
    [InlineData("pickup", 4)]
    [InlineData("oil-pump", 3)]
    [InlineData("relief-valve", 3)]
    [InlineData("head", 6)]
    [InlineData("water-jacket", 3)]
    [InlineData("crankcase", 6)]
    [InlineData("flywheel", 4)]
    [InlineData("pressure-plate", 3)]
    [InlineData("spark-plug", 5)]
    [InlineData("balance-shaft", 1)]
    [InlineData("engine", 15)]
    public void Every_kind_that_is_read_has_its_signs(string kind, int least)
    {
        var signs = KnowledgeBase.BuiltIn.SignsOn(kind).ToArray();
        signs.Length.ShouldBeGreaterThanOrEqualTo(least);
        signs.ShouldAllOfSomeBe(s => s.Chapter.Length > 0 && s.Levels.Distinct().Count() == 3 && s.Minutes > 0);
    }

    [Fact]
    public void A_sign_is_drawn_for_a_family_at_most_and_named_once()
    {
        var signs = KnowledgeBase.BuiltIn.Signs.Where(s => !s.Measured).ToArray();
        signs.Select(s => s.Name).ShouldBeUnique();
        signs.GroupBy(s => s.Draw).ShouldAllOfSomeBe(g => g.Count() <= 6);
        SignDrawing
            .Parse("shell: scores 10 20 80 40; specks")
            .Marks.ShouldBe([new DrawnShape("scores", 10, 20, 80, 40), new DrawnShape("specks", 0, 0, 100, 100)]);
    }

    [Fact]
    public void Every_outline_and_mark_is_used()
    {
        var drawings = KnowledgeBase.BuiltIn.Signs.Where(s => !s.Measured).Select(s => SignDrawing.Parse(s.Draw)).ToArray();
        drawings.Select(d => d.Base).Distinct().Order().ShouldBe(SignDrawing.Bases.Order());
        drawings.SelectMany(d => d.Marks).Select(m => m.Kind).Distinct().Order().ShouldBe(SignDrawing.MarkKinds.Order());
    }

    [Fact]
    public void No_two_causes_predict_exactly_the_same() =>
        KnowledgeBase
            .BuiltIn.Causes.Select(s =>
                string.Join(';', s.Chain.SelectMany(l => l.Predicts).Select(p => $"{p.Sign}@{string.Join(',', p.On)}/{p.At}/{p.Often}").Order())
            )
            .ShouldBeUnique();

    [Theory]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [rod], levels: [a], provenance: p}", "three levels")]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [wing], levels: [a, b, c], provenance: p}", "unknown kind of part “wing”")]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [rod], levels: [a, b, c]}", "does not say where it comes from")]
    [InlineData(
        "knowledge/causes/x.yaml",
        "- {id: t, name: T, seat: rod, base: rarely, provenance: p, chain: [{says: x, predicts: [{sign: no, on: [rod], often: often}]}]}",
        "unknown sign “no”"
    )]
    [InlineData("knowledge/causes/x.yaml", "- {id: t, name: T, seat: rod, provenance: p}", "predicts nothing")]
    [InlineData("knowledge/strip/x.yaml", "- {id: s, name: S, provenance: p, steps: [{id: a, name: A, after: {b: why}}]}", "which is no step")]
    [InlineData(
        "knowledge/signs/x.yaml",
        "- {id: s, name: S, on: [rod], levels: [a, b, c], looks: l, how: h, confusedWith: c, draw: wing, provenance: p}",
        "“wing” is no outline"
    )]
    [InlineData(
        "knowledge/signs/x.yaml",
        "- {id: s, name: S, on: [rod], levels: [a, b, c], looks: l, how: h, confusedWith: c, draw: 'rod: fog', provenance: p}",
        "“fog” is no mark"
    )]
    [InlineData(
        "knowledge/signs/x.yaml",
        "- {id: s, name: S, on: [rod], levels: [a, b, c], looks: l, how: h, confusedWith: c, draw: 'rod: crack 1 2 3', provenance: p}",
        "has no box"
    )]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [rod], levels: [a, b, c], draw: rod, provenance: p}", "what it looks like")]
    [InlineData("knowledge/shots/x.yaml", "- {id: s, name: S, on: [rod], how: h, provenance: p}", "how or why")]
    [InlineData("knowledge/debris/x.yaml", "- {id: s, name: S, provenance: p}", "of no material")]
    [InlineData("knowledge/debris/x.yaml", "- {id: s, name: S, material: [rubber], sign: fog, provenance: p}", "unknown sign “fog”")]
    [InlineData(
        "knowledge/characteristics/x.yaml",
        "- {id: c, name: C, quantity: length, on: [rod], with: w, how: h, held: h, spoils: s, inPicture: [hatch], provenance: p}",
        "does not give it"
    )]
    [InlineData("knowledge/misc/x.yaml", "[]", "No kind of knowledge")]
    public void Knowledge_that_does_not_hold_refuses_to_load_and_names_the_file(string file, string text, string reason)
    {
        var problem = Should.Throw<ProblemException>(() => CheckedKnowledge.Load([(file, text)])).Problems[0];
        problem.Field.ShouldBe(text == "[]" ? file : $"{file}:1");
        problem.Text.ShouldContain(reason);
    }

    [Fact]
    public void An_unreadable_line_is_named()
    {
        var problem = Should
            .Throw<ProblemException>(() => CheckedKnowledge.Load([("knowledge/signs/x.yaml", "- id: s\n  name: S\n  leak: now and then\n")]))
            .Problems[0];
        problem.Field.ShouldBe("knowledge/signs/x.yaml:3");
        var unknown = Should.Throw<ProblemException>(() => CheckedKnowledge.Load([("knowledge/signs/x.yaml", "- id: s\n  colour: red\n")])).Problems[
            0
        ];
        unknown.Text.ShouldContain("colour");
    }

    /// <summary>What does not hold is named by the line on which it stands, deep in an entry too.</summary>
    [Fact]
    public void A_prediction_that_does_not_hold_is_named_by_its_own_line()
    {
        var cause = """
            - id: t
              name: T
              family: test
              anchor: engine
              seat: engine
              base: often
              chain:
                - says: first
                  predicts:
                    - { sign: knock, on: [engine], often: often }
                - says: then
                  predicts:
                    - { sign: knock, on: [engine], often: often }
                    - { sign: knock, on: [piston], often: often }
                    - { sign: gremlins, on: [engine], often: often }
              risks:
                - { risk: full-moon, times: 2 }
              provenance: "test"
            - id: u
              name: U
              seat: engine
              provenance: "test"
            """;
        var problems = Should
            .Throw<ProblemException>(() => CheckedKnowledge.Load(KnowledgeBase.ShippedFiles().Append(("knowledge/causes/t.yaml", cause))))
            .Problems;
        string Of(string text) => problems.Single(p => p.Text.Contains(text)).Field;
        Of("on piston, where it is never found").ShouldBe("knowledge/causes/t.yaml:14");
        Of("gremlins").ShouldBe("knowledge/causes/t.yaml:15");
        Of("full-moon").ShouldBe("knowledge/causes/t.yaml:17");
        Of("“u” predicts nothing").ShouldBe("knowledge/causes/t.yaml:19");
        Of("“u” does not say how often").ShouldBe("knowledge/causes/t.yaml:19");
        problems.ShouldAllOfSomeBe(p => p.Remedy.Say().Length > 0);
    }
}

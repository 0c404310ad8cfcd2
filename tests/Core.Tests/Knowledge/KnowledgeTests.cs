using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Tests.Knowledge;

public sealed class KnowledgeTests
{
    [Fact]
    public void What_ships_loads_and_is_enough_for_a_first_trace()
    {
        var knowledge = KnowledgeBase.BuiltIn;
        knowledge.Stories.Count.ShouldBeGreaterThanOrEqualTo(15);
        knowledge.Stories.SelectMany(s => s.ConfusedWith).ShouldAllBe(id => knowledge.Story(id) != null);
        knowledge.Stories.ShouldAllBe(s => s.Prove.Length > 0 && s.Prevent.Length > 0);
        knowledge.Signs.Where(s => !s.Measured).ShouldAllBe(s => s.Looks.Length > 0 && s.How.Length > 0);
        // A sign that no story predicts can be recorded but moves nothing.
        var predicted = knowledge.Stories.SelectMany(s => s.Chain).SelectMany(l => l.Predicts).Select(p => p.Sign).ToHashSet();
        knowledge.Signs.Select(s => s.Id).Except(predicted).ShouldBeEmpty();
    }

    [Fact]
    public void No_two_stories_predict_exactly_the_same() =>
        KnowledgeBase
            .BuiltIn.Stories.Select(s =>
                string.Join(';', s.Chain.SelectMany(l => l.Predicts).Select(p => $"{p.Sign}@{string.Join(',', p.On)}/{p.At}/{p.Often}").Order())
            )
            .ShouldBeUnique();

    [Theory]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [rod], levels: [a], provenance: p}", "three levels")]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [wing], levels: [a, b, c], provenance: p}", "unknown kind of part “wing”")]
    [InlineData("knowledge/signs/x.yaml", "- {id: s, name: S, on: [rod], levels: [a, b, c]}", "does not say where it comes from")]
    [InlineData(
        "knowledge/stories/x.yaml",
        "- {id: t, name: T, seat: rod, provenance: p, chain: [{says: x, predicts: [{sign: no, on: [rod], often: often}]}]}",
        "unknown sign “no”"
    )]
    [InlineData("knowledge/stories/x.yaml", "- {id: t, name: T, seat: rod, provenance: p}", "predicts nothing")]
    [InlineData("knowledge/strip/x.yaml", "- {id: s, name: S, provenance: p, steps: [{id: a, name: A, after: {b: why}}]}", "which is no step")]
    [InlineData("knowledge/misc/x.yaml", "[]", "No kind of knowledge")]
    public void Knowledge_that_does_not_hold_refuses_to_load_and_names_the_file(string file, string text, string reason)
    {
        var problem = Should.Throw<ProblemException>(() => KnowledgeBase.Load([(file, text)])).Problems[0];
        problem.Field.ShouldBe(file);
        problem.Text.ShouldContain(reason);
    }

    [Fact]
    public void An_unreadable_line_is_named()
    {
        var problem = Should
            .Throw<ProblemException>(() => KnowledgeBase.Load([("knowledge/signs/x.yaml", "- id: s\n  name: S\n  leak: now and then\n")]))
            .Problems[0];
        problem.Field.ShouldBe("knowledge/signs/x.yaml:3");
        var unknown = Should.Throw<ProblemException>(() => KnowledgeBase.Load([("knowledge/signs/x.yaml", "- id: s\n  colour: red\n")])).Problems[0];
        unknown.Text.ShouldContain("colour");
    }
}

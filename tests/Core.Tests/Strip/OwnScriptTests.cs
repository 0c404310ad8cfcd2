using System.Text.Json;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

/// <summary>What a mechanic did on one engine becomes the shop's way with the next of its kind.</summary>
public sealed class OwnScriptTests
{
    private static StripScript Learned(EngineCase c) =>
        OwnScripts.Of(StripTests.Book(c), "hollin-bg-6", "Hollin BG-6", "Hollin BG-6", "learned here", "So it went.");

    private static EngineCase Stripped()
    {
        var c = StripTests.General();
        c.EngineName = "Hollin BG-6, 9.6 l";
        // Against what is usual: the flywheel before the drain, and the clock ran for a while.
        foreach (var (i, id) in new[] { "record", "running-tests", "isolate", "drive-side", "drain-oil" }.Index())
        {
            var record = StripTests.Record(id);
            record.At = DateTimeOffset.UtcNow.AddHours(i - 10);
            c.Steps.Add(record);
        }

        foreach (var set in StripTests.Plan(c).Steps.Single(s => s.Id == "drive-side").Sets)
        {
            c.FastenerMoves.Add(StripTests.Move("drive-side", set.Set.Id, set.Expected));
        }

        var began = DateTimeOffset.UtcNow.AddHours(-2);
        c.StepMarks.Add(Mark(StepMarkKind.Started, began));
        c.StepMarks.Add(Mark(StepMarkKind.Stopped, began.AddMinutes(47)));
        c.OwnSteps.Add(
            new OwnStep
            {
                Id = Guid.CreateVersion7(),
                Reason = "a guard is in the way",
                Step = new StripStep
                {
                    Id = "own-guard",
                    Name = "Guard off",
                    After = new() { ["isolate"] = "The starter must be dead." },
                    Ticks = ["Springs in their bag"],
                    Must = ["Springs in their bag"],
                    HoldPoint = true,
                },
            }
        );
        return c;

        static StepMark Mark(StepMarkKind kind, DateTimeOffset at) =>
            new()
            {
                Id = Guid.CreateVersion7(),
                Step = "drive-side",
                Kind = kind,
                At = at,
            };
    }

    [Fact]
    public void It_keeps_what_was_added_the_order_the_counts_and_the_minutes()
    {
        var script = Learned(Stripped());
        OwnScripts.Check(script, KnowledgeBase.BuiltIn).ShouldBeEmpty();
        StripStep Of(string id) => script.Steps.Single(s => s.Id == id);
        Of("own-guard").ShouldSatisfyAllConditions(s => s.HoldPoint.ShouldBeTrue(), s => s.Must.ShouldBe(["Springs in their bag"]));
        Of("drain-oil").Usually.ShouldContainKey("drive-side");
        Of("drive-side").Minutes.ShouldBe(47);
        Of("drive-side").Fasteners.ShouldAllOfSomeBe(f => f.Counted);
        Of("head").Fasteners.ShouldAllOfSomeBe(f => !f.Counted, "nobody has counted them yet");
        KnowledgeBase.BuiltIn.Script("general")!.Steps.Single(s => s.Id == "drive-side").Fasteners.ShouldAllOfSomeBe(f => !f.Counted);
    }

    [Fact]
    public void The_next_engine_of_the_kind_goes_by_it_and_another_does_not()
    {
        var knowledge = KnowledgeBase.BuiltIn.With([], [Learned(Stripped())]);
        var next = Start.Case(StripTests.General().Layout);
        next.EngineName = "hollin bg-6, serial 12";
        StripPlanner.ScriptOf(next.StripLog(), knowledge).Id.ShouldBe("hollin-bg-6");
        next.Steps.Add(StripTests.Record("own-guard"));
        StripPlanner.ScriptOf(next.StripLog(), knowledge).Id.ShouldBe("hollin-bg-6");
        next.EngineName = "Tarn 4";
        StripPlanner.ScriptOf(next.StripLog(), knowledge).Id.ShouldNotBe("hollin-bg-6");
        var begun = Start.Case(StripTests.General().Layout);
        begun.EngineName = "Hollin BG-6";
        begun.Steps.Add(StripTests.Record("of-another-script"));
        StripPlanner.ScriptOf(begun.StripLog(), knowledge).Id.ShouldNotBe("hollin-bg-6", "it does not know what is done");
    }

    [Fact]
    public void One_of_the_same_id_takes_the_place_of_the_one_that_ships()
    {
        var own = Learned(Stripped());
        own.Id = "general";
        OwnScripts.Check(own, KnowledgeBase.BuiltIn).ShouldContain(p => p.Field == "id", "other engines go by the one that ships");
        own.Kind = "";
        OwnScripts.Check(own, KnowledgeBase.BuiltIn).ShouldBeEmpty();
        var knowledge = KnowledgeBase.BuiltIn.With([], [own]);
        knowledge.Script("general")!.Shop.ShouldBeTrue();
        knowledge.StripScripts.Count.ShouldBe(KnowledgeBase.BuiltIn.StripScripts.Count);
        knowledge.ShippingScript("general")!.Shop.ShouldBeFalse();
    }

    [Fact]
    public void A_fault_names_its_step()
    {
        var script = Learned(Stripped());
        var guard = script.Steps.Single(s => s.Id == "own-guard");
        guard.Must = ["moon"];
        OwnScripts.Check(script, KnowledgeBase.BuiltIn).ShouldContain(p => p.Field == "steps.own-guard");
        script.Id = "No id";
        OwnScripts.Check(script, KnowledgeBase.BuiltIn).ShouldContain(p => p.Field == "id");
    }

    [Fact]
    public void A_script_guards_no_less_than_the_one_it_stands_for_but_by_who_may_open_its_locks()
    {
        string? Refused(Action<StripScript> change, params StepLock[] may)
        {
            var script = Learned(Stripped());
            change(script);
            return OwnScripts.Loosens(script, KnowledgeBase.BuiltIn, may.Contains)?.Field;
        }

        StripStep Of(StripScript script, string id) => script.Steps.Single(s => s.Id == id);
        Refused(_ => { }).ShouldBeNull("what was added and the other order take nothing away");
        Refused(s => Of(s, "head").HoldPoint = false).ShouldBe("steps.head");
        Refused(s => s.Steps.RemoveAll(x => x.Id == "mark-rods")).ShouldBe("steps.mark-rods", "with a sign-off its step stays");
        Refused(s => s.Steps.RemoveAll(x => x.Id == "ridge")).ShouldBeNull("what guards nothing may go");
        Refused(s => Of(s, "head").After.Remove("drain-oil")).ShouldBe("steps.head");
        Refused(s => Of(s, "head").After.Remove("drain-oil"), StepLock.Order).ShouldBeNull();
        Refused(s => Of(s, "wash").ReadFirst = []).ShouldBe("steps.wash");
    }

    [Theory]
    [MemberData(nameof(All))]
    public void Every_script_goes_to_a_file_and_comes_back_the_same(string id)
    {
        var script = KnowledgeBase.BuiltIn.Script(id)!;
        var text = ScriptFile.Write([script]);
        text.ShouldNotContain("''");
        var back = ScriptFile.Read("t", text).ShouldHaveSingleItem();
        JsonSerializer.Serialize(back, CaseFile.Json).ShouldBe(JsonSerializer.Serialize(script, CaseFile.Json));
    }

    public static TheoryData<string> All() => [.. KnowledgeBase.BuiltIn.StripScripts.Select(s => s.Id)];

    [Fact]
    public void A_file_that_is_none_names_its_line() =>
        Should.Throw<ProblemException>(() => ScriptFile.Read("t", "- id: x\n  steps:\n    - moon: 1\n")).Problems[0].Field.ShouldBe("t:3");
}

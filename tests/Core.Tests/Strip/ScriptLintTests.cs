using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Strip;

/// <summary>Each fault of a script is found, and a script without it passes.</summary>
public sealed class ScriptLintTests
{
    private const string Sound = """
        - id: t
          name: T
          says: For the test.
          provenance: "common practice, no source"
          steps:
            - { id: tests, name: Tests, needs: [head], ticks: [Compression], must: [Compression] }
            - { id: coolant, name: Coolant, drains: [coolant] }
            - { id: head, name: Head off, after: { tests: Compression comes first., coolant: It would run into the bores. }, fasteners: [{ id: n, name: nuts, count: 4 }], releases: [head], exposes: [bore], parts: true }
            - { id: piston, name: Piston out, after: { head: It leaves through the deck. }, releases: [piston], readFirst: [bore] }
          variants:
            - { id: only-head, name: Head only, provenance: p, until: [head] }
            - { id: other, name: Other, provenance: p, excludes: [only-head], alters: { piston: { name: Piston drawn } } }
        """;

    private static string[] Faults(string was, string now)
    {
        Sound.ShouldContain(was);
        return Faults(Sound.Replace(was, now));
    }

    private static string[] Faults(string script)
    {
        try
        {
            CheckedKnowledge.Load(KnowledgeBase.ShippedFiles().Append(("knowledge/strip/t.yaml", script)));
            return [];
        }
        catch (ProblemException e)
        {
            return [.. e.Problems.Select(p => p.Text.Say())];
        }
    }

    [Fact]
    public void A_sound_script_passes() => Faults(Sound).ShouldBeEmpty();

    [Theory]
    [InlineData("after: { tests: Compression comes first., ", "after: { ", "needs head in place, and “head” may take it off before")]
    [InlineData(
        "releases: [piston], readFirst: [bore]",
        "releases: [piston], readFirst: [rod-cap], exposes: [rod-cap]",
        "nothing before it lays open"
    )]
    [InlineData("after: { head: It leaves through the deck. }", "after: { coolant: It is wet. }", "leaves through the deck")]
    [InlineData("exposes: [bore], parts: true", "exposes: [bore]", "does not lock")]
    [InlineData("must: [Compression]", "must: [Leak-down]", "does not list")]
    [InlineData("until: [head]", "until: [moon]", "“moon”, which is no step")]
    [InlineData("excludes: [only-head]", "excludes: [moon]", "“moon”, which is no variant")]
    [InlineData("alters: { piston: { name: Piston drawn } }", "alters: { moon: { name: M } }", "“moon”, which is no step")]
    [InlineData("alters: { piston: { name: Piston drawn } }", "alters: { tests: { after: { head: So it is. } } }", "wait for one another in a cycle")]
    [InlineData("alters: { piston: { name: Piston drawn } }", "alters: { piston: { after: { tests: So it is. } } }", "leaves through the deck")]
    public void A_fault_is_told(string was, string now, string told) => Faults(was, now).ShouldContain(f => f.Contains(told));

    /// <summary>Of the families, the one whose script it becomes: it says all that it can of the engine.</summary>
    [Fact]
    public void A_step_for_what_the_engine_lacks_and_a_fluid_of_the_wrong_cooling_are_told()
    {
        var air = KnowledgeBase.BuiltIn.Families.First(f => f.Layout.Cooling == Cooling.Air && f.Layout.Cycle == WorkingCycle.TwoStroke);
        var liquid = KnowledgeBase.BuiltIn.Families.First(f => f.Layout.Cooling == Cooling.Liquid);
        StripScript With(StripStep step) =>
            new()
            {
                Id = "t",
                Name = "T",
                Steps = [step],
            };
        string[] Told(StripStep step, KnownFamily family) =>
            [.. ScriptLint.Check(With(step), family, KnowledgeBase.BuiltIn).Select(f => f.Text.Say())];

        var drains = new StripStep
        {
            Id = "s",
            Name = "S",
            Drains = [Fluid.Coolant],
        };
        Told(drains, air).ShouldContain(t => t.Contains("does not hold"));
        Told(drains, liquid).ShouldBeEmpty();
        Told(new StripStep { Id = "s", Name = "S" }, liquid).ShouldContain(t => t.Contains("never drains the coolant"));
        Told(
                new StripStep
                {
                    Id = "s",
                    Name = "S",
                    Exposes = ["thermostat"],
                },
                air
            )
            .ShouldContain(t => t.Contains("has none of these"));
        Told(
                new StripStep
                {
                    Id = "s",
                    Name = "S",
                    Exposes = ["thermostat", "piston"],
                },
                air
            )
            .ShouldBeEmpty("some of it is there");
    }

    /// <summary>Common practice, no source: a nut has no length under its head to note.</summary>
    [Fact]
    public void Nuts_have_no_length_to_note() =>
        KnowledgeBase
            .BuiltIn.StripScripts.SelectMany(s => s.Steps, (s, step) => (s, step))
            .SelectMany(x => x.step.Fasteners, (x, set) => (x.s.Id, Step: x.step.Id, Set: set))
            .Where(x => x.Set.Name.Split(' ', ',')[^1] is "nut" or "nuts" && x.Set.Lengths.Count > 0)
            .Select(x => $"{x.Id}/{x.Step}/{x.Set.Name}")
            .ShouldBeEmpty();
}

using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests.Index;

public sealed class CandidateTests
{
    private static EngineCase WithCrank(EngineLayout? layout = null, string what = "crankshaft", int? station = null)
    {
        var engine = Start.Case(layout ?? Start.InlineSix);
        engine.Candidates.Add(
            new Candidate
            {
                Id = Guid.CreateVersion7(),
                Letter = "B",
                What = what,
                Station = station,
            }
        );
        return engine;
    }

    private static CaseReader Read(EngineCase engine) => new(engine, KnowledgeBase.BuiltIn, [], new DateOnly(2026, 11, 27));

    private static Finding Saw(string place, string sign, int level = 2) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Sign = sign,
            Seen = Seen.Present,
            Level = level,
        };

    private static Reading Pin(string place, decimal mm) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Characteristic = "crankpin-diameter",
            Typed = $"{mm}",
            Unit = "mm",
            Value = mm,
            Phase = Phase.AsFound,
        };

    [Fact]
    public void A_second_crank_has_places_of_its_own_and_the_engine_keeps_its()
    {
        var table = WithCrank().Places();
        var pin = table.Parse("k4.b");
        (pin.Code, pin.Kind.Id, pin.Station, pin.Of).ShouldBe(("K4.B", "crankpin", 4, "B"));
        pin.Words.Say().ShouldBe("crankpin 4, of B");
        table.All.ShouldNotContain(a => a.Of.Length > 0);
        table.OfKind("crankpin").Count().ShouldBe(6);
        // A rod is none of a crankshaft's.
        Should.Throw<ProblemException>(() => table.Parse("R4.B"));
        Should.Throw<ProblemException>(() => table.Parse("K4.C"));
    }

    [Fact]
    public void A_head_goes_with_the_valves_of_its_bank()
    {
        var table = WithCrank(Start.VeeEight, "head", 2).Places();
        table.Find("H2.B").ShouldNotBeNull();
        table.Find("H1.B").ShouldBeNull();
        var engine = table.Engine;
        table.Everywhere.Where(a => a.Of == "B" && a.Kind.Id == "valve-inlet").ShouldAllBe(a => engine.Cylinder(a.Station).Bank == Bank.B);
        table.Everywhere.Count(a => a.Of == "B" && a.Kind.Id == "valve-inlet").ShouldBe(4);
    }

    [Fact]
    public void What_is_seen_on_a_candidate_says_nothing_of_why_the_engine_failed()
    {
        var engine = WithCrank();
        var before = Read(engine);
        engine.Findings.Add(Saw("K4.B", "journal-scored", 3));
        var after = Read(engine);
        after.Trace.SignsRecorded.ShouldBe(before.Trace.SignsRecorded);
        after.Trace.Ranking.Select(r => r.Probability).ShouldBe(before.Trace.Ranking.Select(r => r.Probability));
        after.Look.Odd.Count.ShouldBe(before.Look.Odd.Count);
        after.Places.ShouldNotContain(p => p.Place == "K4.B");
        engine.Outcome().Findings.ShouldBeEmpty();
        // Thought into the engine, it shows.
        after.With("B").Places.Single(p => p.Place == "K4.B").Damage.ShouldBe(3);
        after.With("B").Places.ShouldNotContain(p => p.Place == "K4");
        after.With("B").Places.ShouldContain(p => p.Place == "R4U");
    }

    [Fact]
    public void Figures_of_a_candidate_stand_by_themselves_and_its_clearances_are_those_with_the_engines_shells()
    {
        var engine = WithCrank();
        foreach (var n in Enumerable.Range(1, 6))
        {
            engine.Readings.Add(Pin($"K{n}", 71.90m));
            engine.Readings.Add(Pin($"K{n}.B", 71.74m));
        }

        var reader = Read(engine);
        reader.Gauge.Figures.Where(f => f.Characteristic == "crankpin-diameter").ShouldAllBe(f => Math.Abs(f.Value - 71.90) < 0.001);
        var offered = reader.With("B").Gauge.Figures.Where(f => f.Characteristic == "crankpin-diameter").ToArray();
        offered.Length.ShouldBe(6);
        offered.ShouldAllBe(f => f.Place.EndsWith(".B", StringComparison.Ordinal) && Math.Abs(f.Value - 71.74) < 0.001);
    }

    [Fact]
    public void A_crack_condemns_the_shaft_that_has_it_and_no_other()
    {
        var engine = WithCrank();
        engine.Findings.Add(Saw("K2.B", "journal-crack", 1));
        var reader = Read(engine);
        reader.Cracks.Condemns(reader.Table.Find("K4")!).ShouldBeNull();
        var there = reader.With("B");
        there.Cracks.Condemns(there.Table.Find("K4.B")!).ShouldBe("K2.B");
    }

    [Fact]
    public void What_came_together_binds_and_is_no_mate_of_the_engines_own()
    {
        var engine = WithCrank(Start.InlineSix, "rod-set");
        var table = engine.Places();
        MateResult Ask(string one, string other) => MateCheck.Of(table.Parse(one), table.Parse(other), engine.Parts, table.Engine);
        Ask("R4.B", "R4C").Answer.ShouldBe(MateAnswer.NotMates);
        Ask("R4.B", "R4C").Why.Say().ShouldContain("one set");
        Ask("R4.B", "R4C.B").Answer.ShouldBe(MateAnswer.NotProven);
        Ask("R4.B", "R5C.B").Answer.ShouldBe(MateAnswer.NotMates);
    }

    [Fact]
    public void Where_number_one_changes_its_end_a_candidate_changes_with_the_engine()
    {
        var engine = WithCrank(Start.InlineSix, "rod-set", 2);
        engine.Findings.Add(Saw("R2.B", "rod-bent"));
        RenumberCase.Apply(engine, Renumber.Layout(engine.Layout, CrankEnd.DriveEnd, NumberingScheme.AlongTheCrank, true), "wrong end");
        engine.Candidates[0].Station.ShouldBe(5);
        engine.Findings[0].Place.ShouldBe("R5.B");
        engine.Places().Find("R5.B").ShouldNotBeNull();
    }

    [Theory]
    [InlineData("A", "crankshaft", null, "letter")]
    [InlineData("CC", "crankshaft", null, "letter")]
    [InlineData("B", "crankshaft", null, "letter")]
    [InlineData("C", "sausage", null, "what")]
    [InlineData("C", "liner", null, "what")]
    [InlineData("C", "rod-set", 9, "station")]
    public void What_cannot_be_offered_is_told(string letter, string what, int? station, string field)
    {
        var engine = WithCrank(Start.InlineSix with { Bores = BoreBuild.Parent });
        var candidate = new Candidate
        {
            Letter = letter,
            What = what,
            Station = station,
        };
        var problem = CandidateSets.Check(candidate, engine.Places(), engine.Candidates).ShouldHaveSingleItem();
        problem.Field.ShouldBe(field);
        problem.Remedy.Say().ShouldNotBeEmpty();
    }

    [Fact]
    public void Every_set_is_of_kinds_that_there_are_and_is_named()
    {
        foreach (var set in CandidateSets.All)
        {
            set.Kinds.ShouldAllBe(k => PartKinds.Find(k) != null);
            set.Name.Say().ShouldNotContain("candidate.");
        }

        CandidateSets.NextLetter(WithCrank().Candidates).ShouldBe("C");
    }

    [Fact]
    public void A_case_file_keeps_candidates_and_bags_and_refuses_two_of_one_letter()
    {
        var engine = WithCrank();
        engine.Id = Guid.CreateVersion7();
        engine.Candidates[0].CaseId = engine.Id;
        engine.Findings.Add(Saw("K4.B", "journal-scored"));
        var file = CaseFile.FromJson(new CaseFile { Case = engine }.ToJson());
        file.Case.Findings.Single().Place.ShouldBe("K4.B");
        file.Case.Candidates.Add(
            new Candidate
            {
                Id = Guid.CreateVersion7(),
                Letter = "B",
                What = "head",
            }
        );
        file.Check().ShouldContain(p => p.Field == "letter");
    }
}

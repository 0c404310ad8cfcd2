using CsCheck;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests.Index;

public sealed class RelayoutTests
{
    private static HashSet<string> At(params string[] places) => places.ToHashSet(StringComparer.Ordinal);

    [Fact]
    public void A_part_that_is_one_of_several_now_keeps_what_was_recorded_on_it()
    {
        var change = Relayout.Of(Start.InlineSix, Start.InlineSix with { InletValves = 2 }, At("V3A", "V3E"));
        change.Map.ShouldContain(new Renumbered("V3A", "V3A1"));
        change.Added.ShouldContain("V3A2");
        change.Left.ShouldBeEmpty();
        // And back again.
        Relayout.Of(change.Layout, Start.InlineSix, At("V3A1")).Map.ShouldContain(new Renumbered("V3A1", "V3A"));
    }

    [Fact]
    public void What_the_engine_has_no_more_keeps_its_address_where_something_is_recorded()
    {
        var four = Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] };
        var change = Relayout.Of(Start.InlineSix, four, At("P5", "P2"));
        var left = change.Left.ShouldHaveSingleItem();
        (left.Code, left.Like, left.Left).ShouldBe(("P5", "piston", true));
        change.Gone.ShouldContain("P6");
        change.Gone.ShouldNotContain("P5");
        Start.Table(change.Layout).Find("P5")!.Words.Say().ShouldBe("piston of an earlier layout");
        // Put right again, it is the piston of cylinder 5.
        var back = Relayout.Of(change.Layout, Start.InlineSix with { OwnParts = change.Layout.OwnParts }, At("P5", "P2"));
        back.Back.ShouldBe(["P5"]);
        back.Layout.OwnParts.ShouldBeEmpty();
    }

    [Fact]
    public void A_part_of_its_own_goes_only_where_nothing_is_recorded_on_it()
    {
        var own = Start.InlineSix with { OwnParts = [new OwnPart("HU", "idler hub") { Like = "idler-gear", Mates = ["CA"] }] };
        Relayout.Of(Start.InlineSix, own, At("P1")).Added.ShouldBe(["HU"]);
        Relayout.Of(own, Start.InlineSix, At("P1")).Layout.OwnParts.ShouldBeEmpty();
        Should.Throw<ProblemException>(() => Relayout.Of(own, Start.InlineSix, At("HU"))).Problems[0].Text.ShouldContain("idler hub");
    }

    [Fact]
    public void A_part_of_its_own_has_mates_and_the_signs_of_the_kind_that_it_is_like()
    {
        var own = Start.InlineSix with { OwnParts = [new OwnPart("HU", "idler hub") { Like = "idler-gear", Mates = ["CA"] }] };
        var table = Start.Table(own);
        var hub = table.Parse("hu");
        hub.Words.Say().ShouldBe("idler hub");
        MateCheck.AreMates(hub, table.Find("CA")!, table.Engine).ShouldBeTrue();
        MateCheck.AreMates(table.Find("CR")!, hub, table.Engine).ShouldBeFalse();
        hub.Kind.ReadAs.ShouldBe("idler-gear");
        KnowledgeBase.BuiltIn.SignsOn(hub.Kind.ReadAs).ShouldNotBeEmpty();
    }

    [Fact]
    public void Number_one_is_put_right_by_itself()
    {
        var six = Start.InlineSix;
        Should
            .Throw<ProblemException>(() => Relayout.Of(six, six with { NumberOneEnd = CrankEnd.DriveEnd }, At()))
            .Problems[0]
            .Field.ShouldBe("layout.numberOneEnd");
        Should
            .Throw<ProblemException>(() => Relayout.Of(Start.VeeEight, Start.VeeEight with { Numbering = NumberingScheme.BankAfterBank }, At()))
            .Problems[0]
            .Field.ShouldBe("layout.numbering");
        // Another arrangement needs another numbering, and that is no matter of taste.
        Relayout.Of(six, Start.VeeEight with { Cylinders = 6, FiringOrder = [1, 2, 3, 4, 5, 6] }, At("P6")).Left.ShouldBeEmpty();
    }

    /// <summary>Over random corrections no record is lost, and none comes to a part of another kind or number.</summary>
    [Fact]
    public void No_record_is_lost_or_moved_to_another_part() =>
        Gen.Select(Layouts, Layouts, Gen.Int[0, int.MaxValue])
            .Sample(
                (before, asked, seed) =>
                {
                    var chance = new Random(seed);
                    var engine = Start.Case(before);
                    engine.Candidates.Add(new Candidate { Letter = "B", What = CandidateSets.All[chance.Next(CandidateSets.All.Count)].Id });
                    Address[] all = [.. engine.Places().Everywhere.OrderBy(a => a.Code, StringComparer.Ordinal)];
                    Address[] offered = [.. all.Where(a => a.Of == "B")];
                    for (var i = 0; i < 12; i++)
                    {
                        var place = i < 4 && offered.Length > 0 ? offered[chance.Next(offered.Length)] : all[chance.Next(all.Length)];
                        engine.Findings.Add(
                            new Finding
                            {
                                Id = Guid.CreateVersion7(),
                                Place = place.Code,
                                Sign = $"{place.Kind.ReadAs} {place.Station} {place.Of}",
                                Seen = Seen.Absent,
                            }
                        );
                    }

                    var change = Relayout.Of(before, asked, RenumberCase.Recorded(engine), engine.Candidates);
                    RenumberCase.Apply(engine, change, "wrong at first");
                    engine.Findings.Count.ShouldBe(12);
                    var now = engine.Places();
                    foreach (var finding in engine.Findings)
                    {
                        var place = now.Find(finding.Place);
                        place.ShouldNotBeNull(finding.Place);
                        var of = finding.Sign.Split(' ')[2];
                        if (place.Kind.Own is null)
                        {
                            $"{place.Kind.Id} {place.Station} {place.Of}".ShouldBe(finding.Sign);
                        }
                        else
                        {
                            place.Kind.ReadAs.ShouldBe(finding.Sign.Split(' ')[0]);
                            Address.IsCandidate(place.Code).ShouldBe(of.Length > 0);
                        }

                        // What is offered is none of the engine's, wherever it is kept.
                        now.Has(place.Code).ShouldBe(of.Length == 0);
                    }

                    // Undone, everything is where it was.
                    var undone = Relayout.Of(
                        engine.Layout,
                        before with
                        {
                            OwnParts = engine.Layout.OwnParts,
                        },
                        RenumberCase.Recorded(engine),
                        engine.Candidates
                    );
                    RenumberCase.Apply(engine, undone, "it was right");
                    var again = engine.Places();
                    foreach (var f in engine.Findings)
                    {
                        var at = again.Find(f.Place)!;
                        $"{at.Kind.Id} {at.Station} {at.Of}".ShouldBe(f.Sign);
                    }

                    engine.Layout.OwnParts.ShouldBeEmpty();
                },
                iter: 1_000
            );

    private static readonly Gen<EngineLayout> Layouts = Gen.Select(Gen.Int[0, 3], Gen.Int[1, 6], Gen.Int[0, int.MaxValue])
        .Select(
            (arrangement, half, seed) =>
            {
                var chance = new Random(seed);
                T Any<T>()
                    where T : struct, Enum => Enum.GetValues<T>()[chance.Next(Enum.GetValues<T>().Length)];
                T? Maybe<T>()
                    where T : struct, Enum => chance.Next(2) == 0 ? null : Any<T>();
                var kind = (Arrangement)arrangement;
                var cylinders =
                    kind == Arrangement.Single ? 1
                    : kind == Arrangement.Inline ? half + 1
                    : half * 2;
                var cycle = Any<WorkingCycle>();
                var gear = Any<ValveGear>();
                var rings = chance.Next(1, 6);
                var overhead = gear is ValveGear.Overhead or ValveGear.TwinOverhead;
                var uniflow = cycle == WorkingCycle.TwoStroke && chance.Next(3) == 0;
                var valved = cycle == WorkingCycle.FourStroke || uniflow;
                var fuel = Any<FuelSystem>();
                var gearbox = chance.Next(2) == 0;
                return new EngineLayout
                {
                    Arrangement = kind,
                    Cylinders = cylinders,
                    Cycle = cycle,
                    Bearings = Any<BearingType>(),
                    RodBearings = Maybe<BearingType>(),
                    Crank = Maybe<CrankBuild>(),
                    Numbering = kind is Arrangement.Vee or Arrangement.Flat ? NumberingScheme.OddEven : NumberingScheme.AlongTheCrank,
                    FiringOrder = [.. Enumerable.Range(1, cylinders)],
                    RingsPerPiston = rings,
                    OilRings = rings > 2 ? chance.Next(rings == 5 ? 1 : 0, 3) : null,
                    ValveGear = gear,
                    InletValves = chance.Next(1, 4),
                    ExhaustValves = chance.Next(1, uniflow ? 5 : 3),
                    Uniflow = uniflow,
                    CamDrive = valved ? Maybe<CamDrive>() : null,
                    CamPhasers = overhead && valved ? chance.Next(2) == 0 : null,
                    BalanceShafts = chance.Next(3) == 0 ? null : chance.Next(5),
                    ReliefValves = chance.Next(1, 5),
                    Fuel = fuel,
                    Feed = fuel == FuelSystem.Diesel ? Maybe<DieselFeed>() : null,
                    Charging = Maybe<Charging>(),
                    Case = Any<CaseBuild>(),
                    GearboxInCase = gearbox,
                    Primary = gearbox ? Maybe<PrimaryDrive>() : null,
                    KickStart = chance.Next(2) == 0,
                };
            }
        );
}

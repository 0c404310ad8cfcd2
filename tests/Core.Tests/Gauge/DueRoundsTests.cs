using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Tests.Gauge;

/// <summary>Which rounds are due: those of parts that lie open, and no float that can no longer be measured.</summary>
public sealed class DueRoundsTests
{
    private static readonly AddressTable Six = Start.Table(Start.InlineSix);

    private static HashSet<string> Open(params string[] kinds) => [.. kinds.SelectMany(Six.OfKind).Select(a => a.Code)];

    private static IReadOnlyList<DueRound> Due(
        HashSet<string> open,
        IReadOnlyList<Reading>? readings = null,
        IReadOnlyList<Limit>? limits = null,
        HashSet<string>? replaced = null,
        HashSet<string>? off = null,
        params Parting[] next
    ) =>
        DueRounds.Of(
            new GaugeLog(readings ?? [], limits ?? [], [], [], null, null),
            Six,
            KnowledgeBase.BuiltIn,
            open,
            off ?? [],
            next,
            replaced ?? []
        );

    private static Limit For(string characteristic, string on = "") =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Characteristic = characteristic,
            On = on,
        };

    [Fact]
    public void Nothing_is_due_before_something_lies_open() => Due([]).ShouldBeEmpty();

    [Fact]
    public void What_is_begun_comes_before_what_most_engines_need_and_that_before_what_has_a_limit()
    {
        var due = Due(
            Open("bore", "crankpin"),
            [Start.Read("K3", "crankpin-diameter", 63.5m)],
            [For("fillet-radius", "crankpin"), For("score-depth", "head")]
        );
        due.Select(d => (d.Characteristic, d.Why, d.Open, d.Left))
            .ShouldBe([("crankpin-diameter", DueWhy.Begun, 6, 5), ("bore-diameter", DueWhy.Usual, 6, 6), ("fillet-radius", DueWhy.Limited, 6, 6)]);
    }

    [Fact]
    public void What_is_measured_or_replaced_anyway_is_due_no_longer()
    {
        var all = Enumerable.Range(1, 6).Select(n => Start.Read($"K{n}", "crankpin-diameter", 63.5m)).ToArray();
        Due(Open("crankpin"), all).ShouldNotContain(d => d.Characteristic == "crankpin-diameter");
        Due(Open("crankpin"), all[1..], replaced: ["K1"]).ShouldNotContain(d => d.Characteristic == "crankpin-diameter");
        Due(Open("crankpin"), all[1..]).Single(d => d.Characteristic == "crankpin-diameter").Left.ShouldBe(1);
    }

    [Theory]
    [InlineData("crank-end-float", "thrust-bearing", "TH")]
    [InlineData("rod-end-float", "rod", "R1")]
    [InlineData("main-strip", "main-cap", "M2C")]
    public void A_float_is_not_asked_for_once_the_parts_are_apart(string characteristic, string kind, string place) =>
        Due(Open(kind), [Start.Read(place, characteristic, 0.2m)], [For(characteristic)]).ShouldNotContain(d => d.Characteristic == characteristic);

    [Fact]
    public void A_float_is_asked_for_before_the_step_that_parts_what_it_is_read_on_and_at_the_stations_that_are_still_together()
    {
        var caps = new Parting("rod-caps", ["rod-cap", "rod", "piston"]);
        var due = Due([], next: [new Parting("pan", ["pan"]), caps]);
        due.ShouldHaveSingleItem().ShouldBe(new DueRound("rod-end-float", Stratum.Rod, DueWhy.Before, 6, 6, "rod-caps"));
        Due([], [Start.Read("R1", "rod-end-float", 0.2m)], next: caps).Single().Left.ShouldBe(5);
        Due([], off: ["R4C"], next: caps).Single().ShouldSatisfyAllConditions(d => d.Open.ShouldBe(5), d => d.Left.ShouldBe(5));
        Due([], next: new Parting("pan", ["pan"])).ShouldBeEmpty("the step that parts them cannot be done yet");
        // It comes before all that can be read later too.
        Due(Open("bore"), next: new Parting("main-caps", ["main-cap", "crankshaft"]))[0].Characteristic.ShouldBe("crank-end-float");
    }

    [Fact]
    public void A_case_asks_for_each_float_as_its_strip_comes_to_it_and_no_longer_once_it_is_apart()
    {
        var c = Strip.StripTests.Upto("rod-caps");
        string[] Asked() =>
            [
                .. new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today)
                    .Gauge.Due.Where(d => d.Why == DueWhy.Before)
                    .Select(d => $"{d.Characteristic}: {d.Step}"),
            ];
        Asked().ShouldContain("rod-end-float: rod-caps");
        c.Steps.Add(Strip.StripTests.Record("rod-caps"));
        c.SignOffs.Add(Strip.StripTests.Sign("rod-caps"));
        Asked().ShouldNotContain(a => a.StartsWith("rod-end-float"));
        Asked().ShouldContain("crank-end-float: crank-out");
    }

    [Fact]
    public void Big_ends_are_another_round_than_mains() =>
        Due(Open("rod-shell-upper", "main-shell-upper"))
            .Where(d => d.Characteristic == "shell-wall")
            .Select(d => (d.Stratum, d.Open))
            .ShouldBe([(Stratum.BigEnd, 6), (Stratum.Main, 7)], ignoreOrder: true);
}

using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests.Look;

public sealed class FindingTests
{
    private static Problem? Check(Finding finding) =>
        FindingRules.Check(finding, Start.Table(Start.InlineSix).Parse(finding.Place), Start.Table(Start.InlineSix).Engine, KnowledgeBase.BuiltIn);

    [Theory]
    [InlineData("R4U", "overlay-wiped", 1, null)]
    [InlineData("R4U", "overlay-wiped", 0, null)]
    [InlineData("R4U", "overlay-wiped", 4, "level")]
    [InlineData("P4", "overlay-wiped", 1, "sign")]
    [InlineData("R4", "clearance-large", 1, "sign")]
    [InlineData("R4U", "gone", 1, "sign")]
    public void A_finding_must_fit_its_part(string place, string sign, int level, string? field) =>
        Check(Start.Saw(place, sign, level))?.Field.ShouldBe(field ?? "nothing");

    [Fact]
    public void What_is_not_there_has_no_level()
    {
        var finding = Start.Saw("R4U", "overlay-wiped", 2);
        finding.Seen = Seen.Absent;
        Check(finding)!.Field.ShouldBe("level");
        finding.Level = 0;
        Check(finding).ShouldBeNull();
    }

    [Fact]
    public void Zones_must_be_on_the_map_and_of_something_seen()
    {
        var finding = Start.Saw("R4U", "overlay-wiped", 2);
        finding.Zones = ["C4", "E5"];
        Check(finding).ShouldBeNull();
        finding.Zones = ["C4", "T5"];
        Check(finding)!.Text.ShouldContain("T5");
        finding = Start.Saw("R4U", "overlay-wiped", 0);
        finding.Zones = ["C4"];
        Check(finding)!.Field.ShouldBe("zones");
        finding = Start.Saw("PA", "sludge", 2);
        finding.Zones = ["C4"];
        Check(finding)!.Field.ShouldBe("zones");
    }
}

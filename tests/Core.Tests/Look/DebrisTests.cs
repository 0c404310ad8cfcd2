using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Look;

/// <summary>What debris points to; all common practice, no source.</summary>
public sealed class DebrisTests
{
    private static IReadOnlyList<DebrisSource> Sources(Debris find, params Finding[] seen)
    {
        var c = Start.Case();
        find.Id = Guid.CreateVersion7();
        find.Place = "PA";
        c.Debris.Add(find);
        c.Findings.AddRange(seen);
        return DebrisSources.Of(c.Debris, c.Findings, Start.Table(Start.InlineSix), KnowledgeBase.BuiltIn).Single().Sources;
    }

    [Theory]
    [InlineData(DebrisMaterial.OtherMetal, false, DebrisColour.CopperOrBronze, DebrisForm.Flake, "bearing-lining")]
    [InlineData(DebrisMaterial.OtherMetal, true, DebrisColour.Bright, DebrisForm.Sliver, "piston-alloy")]
    [InlineData(DebrisMaterial.Sealant, false, DebrisColour.Coloured, DebrisForm.String, "joint-sealant")]
    [InlineData(DebrisMaterial.Plastic, true, DebrisColour.Coloured, DebrisForm.Chip, "guide-plastic")]
    [InlineData(DebrisMaterial.Carbon, false, DebrisColour.Black, DebrisForm.Chip, "coke")]
    [InlineData(DebrisMaterial.MagneticMetal, true, DebrisColour.Bright, DebrisForm.Needle, "needles")]
    [InlineData(DebrisMaterial.MagneticMetal, true, DebrisColour.Bright, DebrisForm.Curl, "swarf")]
    public void Magnet_thumbnail_colour_and_form_point_to_a_source(
        DebrisMaterial material,
        bool hard,
        DebrisColour colour,
        DebrisForm form,
        string first
    ) =>
        Sources(
            new Debris
            {
                Material = material,
                Hard = hard,
                Colour = colour,
                Form = form,
            }
        )[0]
            .Id.ShouldBe(first);

    [Fact]
    public void What_a_magnet_takes_is_never_aluminium() =>
        Sources(new Debris { Material = DebrisMaterial.MagneticMetal }).ShouldNotContain(s => s.Id == "piston-alloy");

    [Fact]
    public void What_a_thumbnail_marks_is_no_piston() =>
        Sources(new Debris { Material = DebrisMaterial.OtherMetal, Hard = false }).ShouldNotContain(s => s.Id == "piston-alloy");

    [Fact]
    public void A_damaged_part_of_the_kind_comes_first_and_is_named()
    {
        var find = new Debris { Material = DebrisMaterial.OtherMetal, Hard = false };
        var source = Sources(find, Start.Saw("R5U", "overlay-wiped", 3)).Single(s => s.Id == "bearing-lining");
        source.Places[0].ShouldBe("R5U");
        source.Agrees.Select(Said.Say).ShouldContain("R5U is damaged");
    }

    [Fact]
    public void Size_counts()
    {
        var small = Sources(
                new Debris
                {
                    Material = DebrisMaterial.MagneticMetal,
                    Hard = true,
                    Size = 0.2m,
                }
            )
            .Select(s => s.Id)
            .ToList();
        var large = Sources(
                new Debris
                {
                    Material = DebrisMaterial.MagneticMetal,
                    Hard = true,
                    Size = 9,
                }
            )
            .Select(s => s.Id)
            .ToList();
        small[0].ShouldBe("iron-dust");
        large.ShouldNotContain("iron-dust");
    }

    [Fact]
    public void An_engine_without_the_part_is_not_blamed_on_it()
    {
        var c = Start.Case(Start.TwoStrokeTwin);
        c.Debris.Add(
            new Debris
            {
                Id = Guid.CreateVersion7(),
                Place = "CA",
                Material = DebrisMaterial.Plastic,
            }
        );
        var sources = DebrisSources.Of(c.Debris, c.Findings, Start.Table(Start.TwoStrokeTwin), KnowledgeBase.BuiltIn).Single().Sources;
        sources.ShouldNotContain(s => s.Id == "guide-plastic");
    }

    [Fact]
    public void A_find_taken_back_is_read_no_more()
    {
        var c = Start.Case();
        c.Debris.Add(
            new Debris
            {
                Id = Guid.CreateVersion7(),
                Place = "PA",
                WithdrawnAt = DateTimeOffset.UnixEpoch,
            }
        );
        DebrisSources.Of(c.Debris, c.Findings, Start.Table(Start.InlineSix), KnowledgeBase.BuiltIn).ShouldBeEmpty();
    }
}

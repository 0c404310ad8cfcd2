using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Look;

/// <summary>What was measured in a photograph, with the marks it was measured by, so that anybody can measure it again.</summary>
public sealed class PictureMeasure : CaseRecord
{
    public Guid Photo { get; set; }

    public PictureTask Task { get; set; }

    /// <summary>The points it was measured by: across and down in turn, as shares of the picture’s width and height from its upper left corner.</summary>
    public List<double> Points { get; set; } = [];

    /// <summary>Both ends of a length that somebody knew, as <see cref="Points"/>; empty where the card, or nothing, gave the scale.</summary>
    public List<double> Scale { get; set; } = [];

    /// <summary>That length, in mm.</summary>
    public decimal? ScaleLength { get; set; }

    /// <summary>Number of the card that gave the plane; null without one.</summary>
    public int? Card { get; set; }

    /// <summary>How far what was measured lay above the card, in mm.</summary>
    public decimal Above { get; set; }

    /// <summary>What came out: mm, mm², degrees, % or, of particles, their number.</summary>
    public decimal Value { get; set; }

    /// <summary>Its standard uncertainty, in the same unit.</summary>
    public decimal Standard { get; set; }

    /// <summary>How far off the plane the dots of the card were seen, in pixels; null without a card.</summary>
    public double? Residual { get; set; }

    /// <summary>How far the card was turned away, in degrees; null without one.</summary>
    public double? Tilt { get; set; }

    /// <summary>Of particles how many lie in each class of sizes, from <see cref="SizeClass.All"/>’s first on; else empty.</summary>
    public List<int> Classes { get; set; } = [];

    /// <summary>Of particles the longest, in mm.</summary>
    public decimal? Longest { get; set; }

    /// <summary>Of particles how many have a glint.</summary>
    public int? Shiny { get; set; }
}

using VividSleuth.Core.Build;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Shop;

/// <summary>How an engine is used; what its maker or the shop asks for by hours goes by it.</summary>
public enum EngineUse
{
    Ordinary,
    Race,

    /// <summary>It stands ready and seldom runs.</summary>
    Standby,
}

/// <summary>What a drawing or the manual says that is no figure: where an arrow points, what hides behind a cover.</summary>
public sealed class KindNote
{
    public string Title { get; set; } = "";

    public string Text { get; set; } = "";

    /// <summary>Drawing or page.</summary>
    public string Page { get; set; } = "";
}

/// <summary>What is to be done at engines of a kind again and again.</summary>
public sealed class KindService
{
    /// <summary>The same through all versions of the kind; what was done on an engine names it.</summary>
    public string Id { get; set; } = "";

    public string What { get; set; } = "";

    /// <summary>Running hours from one to the next, of an engine in ordinary use; null where the hours do not count.</summary>
    public decimal? Ordinary { get; set; }

    /// <summary>Running hours in racing use; null takes the ordinary ones.</summary>
    public decimal? Race { get; set; }

    /// <summary>Running hours of one that stands by; null takes the ordinary ones.</summary>
    public decimal? Standby { get; set; }

    /// <summary>Months after which it is due whatever the hours; null where the calendar does not count.</summary>
    public int? Months { get; set; }

    /// <summary>The engine is opened for it: worth doing while it is open for something else.</summary>
    public bool Opens { get; set; }

    /// <summary>Manual and page, or whose rule it is.</summary>
    public string SourceText { get; set; } = "";

    /// <summary>Running hours from one to the next in a use.</summary>
    public decimal? Hours(EngineUse use) =>
        use switch
        {
            EngineUse.Race => Race ?? Ordinary,
            EngineUse.Standby => Standby ?? Ordinary,
            _ => Ordinary,
        };
}

/// <summary>
/// What serves every engine of a kind, written once: how it is laid out, its maker’s figures with their pages, the sizes that can be bought, how it is
/// tightened, by which script of the shop it is stripped and built, what its drawings say and what is due when. Figures are the records that a case
/// holds, in base units, without case, writer and day.
/// </summary>
public sealed record KindSheet
{
    public string Name { get; set; } = "";

    /// <summary>What else one would call it, and by what it is told.</summary>
    public string Says { get; set; } = "";

    public EngineLayout Layout { get; set; } =
        new()
        {
            Arrangement = Arrangement.Single,
            Cylinders = 0,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            FiringOrder = [],
        };

    /// <summary>Piston stroke in mm.</summary>
    public decimal? Stroke { get; set; }

    /// <summary>Length of the rods between centres in mm.</summary>
    public decimal? RodLength { get; set; }

    /// <summary>Unit in which its maker tells lengths; null takes the shop’s.</summary>
    public LengthUnit? Lengths { get; set; }

    /// <summary>Id of the strip script, with its counted fasteners, its order and its times; empty takes the one that fits the layout best.</summary>
    public string Script { get; set; } = "";

    /// <summary>Ids of the script’s variants.</summary>
    public List<string> Variants { get; set; } = [];

    public List<Limit> Limits { get; set; } = [];

    public List<ServiceSizes> Sizes { get; set; } = [];

    public List<Tightening> Tightenings { get; set; } = [];

    public List<KindNote> Notes { get; set; } = [];

    public List<KindService> Services { get; set; } = [];
}

/// <summary>
/// A kind of engine, as the shop knows it. Its version grows with each change and what it said before is kept, so that a case can name the version it was
/// judged by.
/// </summary>
public sealed class EngineKind : IShopRecord
{
    public Guid Id { get; set; }

    /// <summary>As <see cref="KindSheet.Name"/>; of standing kinds no two have one name.</summary>
    public string Name { get; set; } = "";

    public KindSheet Sheet { get; set; } = new();

    /// <summary>Why the shop wrote or changed it.</summary>
    public string Why { get; set; } = "";

    /// <summary>Whose it was, of one that came as a file; empty of the shop’s own.</summary>
    public string Theirs { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

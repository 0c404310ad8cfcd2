using VividSleuth.Core.Engines;

namespace VividSleuth.Core.Index;

public enum MarkMethod
{
    None,
    MakersMark,
    NumberPunch,
    Engraver,
    Scratch,
    Paint,
    FeltPen,
}

/// <summary>The way a mark, arrow or notch looks while the part is in its place, seen from the free end.</summary>
public enum Facing
{
    Unknown,
    FreeEnd,
    DriveEnd,
    Left,
    Right,
}

public enum Custody
{
    OnEngine,
    Bench,
    Bag,
    Box,
    MachineShop,
    Welder,
    Supplier,
    Customer,
    Scrapped,

    /// <summary>Kept on another part: the pin and its clips back in the piston.</summary>
    OnPart,
}

public static class Custodies
{
    /// <summary>Whether a part is in other hands than the shop’s.</summary>
    public static bool IsOut(this Custody custody) => custody is Custody.MachineShop or Custody.Welder or Custody.Supplier or Custody.Customer;
}

/// <summary>A tagged part: its mark, which way round it sits, what is stamped on it and where it is now.</summary>
public sealed class Part : CaseRecord
{
    public string Place { get; set; } = "";

    /// <summary>The mark as it stands on the part.</summary>
    public string Mark { get; set; } = "";

    public MarkMethod Method { get; set; }

    /// <summary>True when the maker put the same mark on every part of the kind: it proves the side, not the pair.</summary>
    public bool SameOnAll { get; set; }

    public Facing Facing { get; set; }

    /// <summary>Size grade as stamped: STD, 0.25, .010 …</summary>
    public string GradeStamped { get; set; } = "";

    public Custody Custody { get; set; }

    /// <summary>Address of the part it is kept on, where that is its custody; empty otherwise.</summary>
    public string On { get; set; } = "";

    /// <summary>Which bag, which bench row, which shop.</summary>
    public string Where { get; set; } = "";

    /// <summary>When it was sent out of the shop; null while it is here.</summary>
    public DateOnly? Sent { get; set; }

    /// <summary>When it should be back.</summary>
    public DateOnly? DueBack { get; set; }

    /// <summary>Which side is up, in words: a ring's mark, a washer's chamfer.</summary>
    public string SideUp { get; set; } = "";

    /// <summary>Weight in g, for matching sets.</summary>
    public decimal? Weight { get; set; }

    /// <summary>The address that is still written on the part after a renumbering; empty when the mark is up to date.</summary>
    public string MarkedAs { get; set; } = "";

    public string Remarks { get; set; } = "";
}

/// <summary>The numbering of the engine changed: every record moved to the address its part has now.</summary>
public sealed class Renumbering : CaseRecord
{
    public required EngineLayout Before { get; set; }

    public required EngineLayout After { get; set; }

    /// <summary>Old address → new one, where they differ.</summary>
    public Dictionary<string, string> Map { get; set; } = [];

    public string Why { get; set; } = "";
}

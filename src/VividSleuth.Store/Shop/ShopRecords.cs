using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Store.Shop;

/// <summary>How the shop works; one row.</summary>
public sealed class ShopSettings
{
    public const int TheOne = 1;

    public int Id { get; set; } = TheOne;

    public int Version { get; set; }

    /// <summary>Role that signs hold points.</summary>
    public string HoldSigner { get; set; } = Roles.Lead;

    /// <summary>True where a hold point is signed by another than the one who did the step.</summary>
    public bool OtherEyes { get; set; }

    /// <summary>Role that may open a lock of the strip with a reason; a lead always may, and a lock that is not named here a lead alone.</summary>
    public Dictionary<StepLock, string> OpenedBy { get; set; } =
        new()
        {
            [StepLock.FastenersOut] = Roles.Mechanic,
            [StepLock.Hole] = Roles.Mechanic,
            [StepLock.Empty] = Roles.Mechanic,
        };

    /// <summary>Whether somebody of a role may open a lock of a kind.</summary>
    public bool MayOpen(StepLock of, string role) => role == Roles.Lead || OpenedBy.GetValueOrDefault(of, Roles.Lead) == role;

    /// <summary>How fasteners are kept where a set has no way of its own.</summary>
    public Keeping Keeping { get; set; } = Keeping.Bag;

    /// <summary>Ways of their own, by script, step and set: “pushrod-v8/head/head”.</summary>
    public Dictionary<string, Keeping> KeepingBySet { get; set; } = [];

    /// <summary>How the shop does what practitioners disagree about.</summary>
    public Schools Schools { get; set; } = Schools.Usual;

    /// <summary>When, with how many hands and with what it works.</summary>
    public ShopWork Work { get; set; } = ShopWork.Usual;

    /// <summary>Unit in which lengths are told where neither the engine nor the reader says otherwise.</summary>
    public LengthUnit Lengths { get; set; }

    /// <summary>Language in which the shop is told where a person chose none.</summary>
    public Language Language { get; set; }

    /// <summary>Currency that money is told in, a code after ISO 4217.</summary>
    public string Currency { get; set; } = "EUR";

    /// <summary>What one unit of another currency is in it, as the shop last looked.</summary>
    public Dictionary<string, decimal> Rates { get; set; } = [];

    /// <summary>What an hour of the shop's own work counts.</summary>
    public decimal HourRate { get; set; }

    /// <summary>Host and port of the shop's gauge; empty where it has none.</summary>
    public string GaugeAddress { get; set; } = "";

    /// <summary>Host and port of the shop's label printer; empty where it has none.</summary>
    public string PrinterAddress { get; set; } = "";
}

/// <summary>“This bolt first next time”: kept with the kind of engine, and met by the next such case at the right step.</summary>
public sealed class Lesson : IShopRecord
{
    public Guid Id { get; set; }

    public string Script { get; set; } = "";

    public string Step { get; set; } = "";

    /// <summary>Engine as the case names it; the lesson is for all of the script, and nearest to this one.</summary>
    public string EngineName { get; set; } = "";

    public string Text { get; set; } = "";

    public Guid? CaseId { get; set; }

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

/// <summary>A part on the shelf: spare crankshaft, block, shells, pistons. Its tag is T with a number.</summary>
public sealed class StockPart : IShopRecord
{
    public Guid Id { get; set; }

    public int Number { get; set; }

    /// <summary>Kind of part, from the table of kinds.</summary>
    public string Kind { get; set; } = "";

    /// <summary>For which engines, what maker's number.</summary>
    public string Fits { get; set; } = "";

    /// <summary>Size grade: STD, 0.25, .010 …</summary>
    public string Grade { get; set; } = "";

    public int Count { get; set; } = 1;

    public string Where { get; set; } = "";

    public string Remarks { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

public enum LabelState
{
    Waiting,
    PaperOut,
    Printed,
    Cancelled,
}

/// <summary>Labels sent to the shop's printer.</summary>
public sealed class LabelJob
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    /// <summary>Addresses, one label each.</summary>
    public List<string> Places { get; set; } = [];

    public LabelState State { get; set; }

    /// <summary>How many of its labels are out.</summary>
    public int Printed { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";
}

/// <summary>What the shop's label printer last said of itself; one row.</summary>
public sealed class LabelPrinter
{
    public int Id { get; set; } = ShopSettings.TheOne;

    /// <summary>Name by which it introduced itself.</summary>
    public string Name { get; set; } = "";

    /// <summary>Labels left on the roll, as it last said.</summary>
    public int Left { get; set; }

    /// <summary>Code of the fact that says why nothing was printed at the last try; empty where all went well.</summary>
    public string Trouble { get; set; } = "";

    public DateTimeOffset? At { get; set; }
}

/// <summary>
/// A cause that the shop wrote, or its version of one that ships. Never deleted: taken back it no longer counts, and what it was before each
/// change is kept.
/// </summary>
public sealed class ShopCause : IShopRecord
{
    public Guid Id { get; set; }

    /// <summary>Id of the cause; that of one that ships where this takes its place.</summary>
    public string CauseId { get; set; } = "";

    public KnownCause Cause { get; set; } = new();

    /// <summary>Why the shop wrote or changed it.</summary>
    public string Why { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

/// <summary>A strip script of the shop's own, in the place of one that ships or beside them.</summary>
public sealed class ShopScript : IShopRecord
{
    public Guid Id { get; set; }

    /// <summary>Id of the script; that of one that ships where this takes its place.</summary>
    public string ScriptId { get; set; } = "";

    public StripScript Script { get; set; } = new();

    /// <summary>Why the shop wrote or changed it.</summary>
    public string Why { get; set; } = "";

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests;

/// <summary>Engines and cases that the tests begin with.</summary>
internal static class Start
{
    public static EngineLayout InlineSix { get; } =
        new()
        {
            Arrangement = Arrangement.Inline,
            Cylinders = 6,
            Cycle = WorkingCycle.FourStroke,
            Bearings = BearingType.Plain,
            FiringOrder = [1, 5, 3, 6, 2, 4],
        };

    public static EngineLayout VeeEight { get; } =
        InlineSix with
        {
            Arrangement = Arrangement.Vee,
            Cylinders = 8,
            Numbering = NumberingScheme.OddEven,
            FiringOrder = [1, 8, 4, 3, 6, 5, 7, 2],
        };

    public static EngineLayout FlatFour { get; } =
        InlineSix with
        {
            Arrangement = Arrangement.Flat,
            Cylinders = 4,
            Numbering = NumberingScheme.BankAfterBank,
            FiringOrder = [1, 4, 3, 2],
        };

    public static EngineLayout TwoStrokeTwin { get; } =
        InlineSix with
        {
            Cylinders = 2,
            Cycle = WorkingCycle.TwoStroke,
            Bearings = BearingType.Rolling,
            FiringOrder = [1, 2],
            RingsPerPiston = 2,
        };

    /// <summary>The day that the tests take for today.</summary>
    public static DateOnly Today { get; } = new(2026, 11, 24);

    public static AddressTable Table(EngineLayout layout) => new(Engine.From(layout));

    public static EngineCase Case(EngineLayout? layout = null) => new() { Id = Guid.CreateVersion7(), Layout = layout ?? InlineSix };

    public static Reading Read(string place, string characteristic, decimal value, string instrument = "") =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Characteristic = characteristic,
            Typed = value.ToString(),
            Value = value,
            Unit = "mm",
            Instrument = instrument,
        };

    public static Finding Saw(string place, string sign, int level) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Sign = sign,
            Level = level,
            Seen = level > 0 ? Seen.Present : Seen.Absent,
        };

    public static Limit Standard(string characteristic, decimal nominal) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Characteristic = characteristic,
            Nominal = nominal,
            SourceText = "manual, page 1",
        };

    public static Part Tag(string place, Facing facing, MarkMethod method = MarkMethod.Engraver, bool sameOnAll = false) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Place = place,
            Mark = "4",
            Method = method,
            Facing = facing,
            SameOnAll = sameOnAll,
        };

    /// <summary>The root of the repository, found from where the tests run.</summary>
    public static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder!.FullName, "VividSleuth.slnx")))
        {
            folder = folder.Parent;
        }

        return folder.FullName;
    }
}

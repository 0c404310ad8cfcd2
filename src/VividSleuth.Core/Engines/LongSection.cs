using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Engines;

/// <summary>A column of the long section: a main bearing, or a crankpin with the cylinders above (bank A) and below it (bank B).</summary>
public sealed record SectionColumn(BearingKind Kind, int Number, int? CylinderA, int? CylinderB);

/// <summary>One part's place in the drawing. <paramref name="Column"/> is null for what belongs to the engine or a bank as a whole.</summary>
/// <param name="End">The end of the crankshaft at which it hangs; null where it is told by none.</param>
/// <param name="Drawn">False for what is listed only: valve gear in pieces, accessories, fuel and drive side.</param>
public sealed record SectionCell(
    string Address,
    string Kind,
    Fact Words,
    Stratum Stratum,
    StationScope Scope,
    int Station,
    int? Column,
    Bank Bank,
    CrankEnd? End,
    bool Drawn
);

/// <summary>What the drawing must know of the engine beside its places, with what nobody told taken as usual.</summary>
/// <param name="Valves">Null where it has none.</param>
/// <param name="CamsPerBank">Camshafts over each head; 0 where one in the block serves both banks or there is none.</param>
/// <param name="Ports">The pistons open and close windows in the bores.</param>
/// <param name="Built">The crankshaft is pressed together.</param>
public sealed record SectionMake(
    ValveGear? Valves,
    int CamsPerBank,
    CamDrive? CamDrive,
    CrankEnd Timing,
    CrankEnd Flywheel,
    BoreBuild Bores,
    bool Ports,
    bool Built
);

/// <summary>
/// The section along the crankshaft: columns are the stations from the free end to the drive end, rows are the strata, and the
/// second bank is mirrored below. Place is position, so a pattern is seen at a glance.
/// </summary>
public sealed record LongSection(IReadOnlyList<SectionColumn> Columns, IReadOnlyList<SectionCell> Cells, CrankEnd NumberOneEnd, SectionMake Make)
{
    public static LongSection Of(AddressTable table)
    {
        var engine = table.Engine;
        var columns = new List<SectionColumn>();
        for (var main = 1; main <= engine.Mains; main++)
        {
            columns.Add(new SectionColumn(BearingKind.Main, main, null, null));
            foreach (var pin in Enumerable.Range(1, engine.Crankpins).Where(p => engine.MainsBeside(p)[0] == main))
            {
                var on = engine.OnCrankpin(pin).ToArray();
                columns.Add(
                    new SectionColumn(
                        BearingKind.Crankpin,
                        pin,
                        on.FirstOrDefault(c => c.Bank == Bank.A)?.Number,
                        on.FirstOrDefault(c => c.Bank == Bank.B)?.Number
                    )
                );
            }
        }

        if (engine.Layout.NumberOneEnd == CrankEnd.DriveEnd)
        {
            columns.Reverse();
        }

        return new LongSection(columns, [.. table.All.Select(a => Cell(engine, columns, a))], engine.Layout.NumberOneEnd, MakeOf(engine));
    }

    private static SectionMake MakeOf(Engine engine)
    {
        var layout = engine.Layout;
        return new SectionMake(
            layout.HasValves ? layout.ValveGear : null,
            layout.HasValves && layout.IsOverhead ? engine.Camshafts / engine.Banks : 0,
            layout.CamDrive,
            layout.Ends.Of(EndHung.Timing),
            layout.Ends.Of(EndHung.Flywheel),
            layout.BoresAre,
            layout.Cycle == WorkingCycle.TwoStroke,
            layout.IsBuilt
        );
    }

    private static SectionCell Cell(Engine engine, List<SectionColumn> columns, Address a)
    {
        int? column = a.Kind.Scope switch
        {
            StationScope.Cylinder => At(columns, BearingKind.Crankpin, engine.Cylinder(a.Station).Crankpin),
            StationScope.Crankpin => At(columns, BearingKind.Crankpin, a.Station),
            StationScope.Main => At(columns, BearingKind.Main, a.Station),
            _ => null,
        };
        var bank = Along.BankOf(a, engine);
        return new SectionCell(
            a.Code,
            a.Kind.ReadAs,
            a.Words,
            a.Kind.Stratum,
            a.Kind.Scope,
            a.Station,
            column,
            bank,
            EndOf(a, engine.Layout.Ends),
            a.Kind.Drawn
        );
    }

    private static CrankEnd? EndOf(Address a, EngineEnds ends) =>
        a.Kind.At is { } at ? ends.Of(at)
        : a.Kind.Id is not ("crank-seal" or "seal-carrier") ? null
        : a.Nth == 1 ? CrankEnd.FreeEnd
        : CrankEnd.DriveEnd;

    private static int At(List<SectionColumn> columns, BearingKind kind, int number) => columns.FindIndex(c => c.Kind == kind && c.Number == number);
}

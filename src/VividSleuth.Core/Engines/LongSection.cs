using VividSleuth.Core.Gauge;

namespace VividSleuth.Core.Engines;

/// <summary>A column of the long section: a main bearing, or a crankpin with the cylinders above (bank A) and below it (bank B).</summary>
public sealed record SectionColumn(BearingKind Kind, int Number, int? CylinderA, int? CylinderB);

/// <summary>One part's place in the drawing. <paramref name="Column"/> is null for what belongs to the engine or a bank as a whole.</summary>
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
    bool Drawn
);

/// <summary>
/// The section along the crankshaft: columns are the stations from the free end to the drive end, rows are the strata, and the
/// second bank is mirrored below. Place is position, so a pattern is seen at a glance.
/// </summary>
public sealed record LongSection(IReadOnlyList<SectionColumn> Columns, IReadOnlyList<SectionCell> Cells, CrankEnd NumberOneEnd)
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

        return new LongSection(columns, [.. table.All.Select(a => Cell(engine, columns, a))], engine.Layout.NumberOneEnd);
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
        return new SectionCell(a.Code, a.Kind.ReadAs, a.Words, a.Kind.Stratum, a.Kind.Scope, a.Station, column, bank, a.Kind.Drawn);
    }

    private static int At(List<SectionColumn> columns, BearingKind kind, int number) => columns.FindIndex(c => c.Kind == kind && c.Number == number);
}

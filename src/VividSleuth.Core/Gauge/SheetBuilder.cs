using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// Works out the sheet: figures by station with their uncertainty, sums of them such as clearances, shape, grades, and the signs they amount to.
/// What was found and what is after work stand beside each other; signs come from what was found alone.
/// </summary>
public static class SheetBuilder
{
    public static GaugeSheet Build(
        GaugeLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<Instrument> instruments,
        Schools? schools = null
    )
    {
        var draft = new SheetDraft(log, table, knowledge, instruments, schools);
        Read(draft);
        var profiles = new List<Profile>();
        foreach (var phase in Enum.GetValues<Phase>())
        {
            profiles.AddRange(Shapes.Add(draft, phase));
            Sums.Add(draft, phase);
            WorkedOut.Add(draft, phase);
        }

        foreach (var misnamed in draft.Book.Misnamed.GroupBy(r => (r.Characteristic, r.Instrument)))
        {
            draft.Notes.Add(
                Fact.Of(
                    "gauge.misnamed-instrument",
                    ("figure", knowledge.Characteristic(misnamed.Key.Characteristic)!.Name),
                    ("places", misnamed.Select(r => r.Place).Distinct()),
                    ("instrument", misnamed.Key.Instrument)
                )
            );
        }

        var grades = GradeChecks.Of(draft);
        var signs = MeasuredSigns.Of(draft, grades);
        RingGapSchool.Note(draft);
        return new GaugeSheet(
            [.. knowledge.Characteristics.Where(c => !c.Derived && c.Applies.Fits(table.Engine.Layout)).Select(c => c.Id)],
            draft.Figures,
            profiles,
            [.. grades.Select(g => g.Check)],
            RingDrifts.Of(table, draft.Book),
            Weights.Of(table, draft.Book),
            StationTrends.Of(draft),
            signs,
            draft.Notes,
            draft.Limits.Nominal(Characteristics.PinDiameter, PartKinds.Crankpin)
        );
    }

    /// <summary>
    /// The figures that <see cref="Build"/> makes of what was read of one characteristic at one place, without the rest of the sheet: what is read of it elsewhere
    /// is looked at for its scatter, and what else is read at the place for the size that a limit goes by.
    /// </summary>
    /// <param name="characteristic">One that is read; of what is worked out of others there is nothing here.</param>
    public static IReadOnlyList<SheetFigure> Of(
        GaugeLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<Instrument> instruments,
        Schools? schools,
        string place,
        string characteristic
    )
    {
        var near = log with { Readings = [.. log.Readings.Where(r => r.Place == place || r.Characteristic == characteristic)] };
        var draft = new SheetDraft(near, table, knowledge, instruments, schools);
        Read(draft, draft.Book.Measured.Where(m => m.Place == place && m.Characteristic == characteristic).OrderBy(m => m.Phase));
        return draft.Figures;
    }

    /// <summary>Figures that were read, in the order of the places.</summary>
    private static void Read(SheetDraft draft)
    {
        var order = draft.Table.All.Select((a, i) => (a.Code, i)).ToDictionary(x => x.Code, x => x.i, StringComparer.Ordinal);
        Read(draft, draft.Book.Measured.OrderBy(k => order[k.Place]).ThenBy(k => k.Characteristic, StringComparer.Ordinal).ThenBy(k => k.Phase));
    }

    private static void Read(SheetDraft draft, IEnumerable<(string Place, string Characteristic, Phase Phase)> measured)
    {
        foreach (var (place, id, phase) in measured)
        {
            var entry = draft.Knowledge.Characteristic(id)!;
            if (entry.Derived)
            {
                continue;
            }

            // Where a gap was put is no measure of where it is.
            var station = id == RingDrifts.Position ? RingDrifts.Found : "";
            if (draft.Book.Whole(place, id, phase, station: station) is { } whole)
            {
                var typed = draft.Book.Cells(place, id, phase).SelectMany(c => c.Readings).Select(r => r.Typed + r.UnitBehind()).ToArray();
                draft.Add(draft.Table.Find(place)!, entry, phase, whole, Fact.Of("gauge.as-typed", ("readings", typed)), derived: false);
            }
        }
    }
}

internal static class ReadingUnits
{
    /// <summary>The unit in which a bare figure was meant, for showing what was typed.</summary>
    public static string UnitBehind(this Reading reading) =>
        reading.Typed.Length > 0 && char.IsAsciiDigit(reading.Typed[^1]) ? $" {reading.Unit}" : "";
}

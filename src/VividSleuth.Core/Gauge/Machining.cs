using VividSleuth.Core.Engines;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>
/// To which size all journals of a kind, or all bores, must be machined so that the worst of them cleans up. Shafts are ground to one
/// undersize and blocks bored to one oversize, as mixed sets are how the next engine fails. Common practice, no source.
/// </summary>
public static class Machining
{
    /// <summary>
    /// The step to which a journal is ground. Wear is mostly on one side: on the old centres as much comes off the other side too, so that
    /// the round that is left is the size before wear less twice the loss; following the wear it is the smallest diameter itself.
    /// </summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="least">Smallest diameter found, mm.</param>
    /// <returns>Null where no usual step is deep enough.</returns>
    public static Grade? Undersize(decimal standard, decimal least, Schools schools)
    {
        var unworn = standard - Grade.OfJournal(standard, least, system: schools.Steps).Under;
        var left = schools.Centres == Centres.Original ? unworn - (2 * Math.Max(0, unworn - least)) : least;
        return Grade.NextThatCleansUp(standard, left, schools.GrindingAllowance, schools.Steps);
    }

    /// <summary>The step to which a bore is bored, by the same geometry as <see cref="Undersize"/>.</summary>
    /// <param name="standard">Standard bore, mm.</param>
    /// <param name="most">Largest diameter found, mm.</param>
    /// <returns>Null where no usual step is large enough.</returns>
    public static Grade? Oversize(decimal standard, decimal most, Schools schools)
    {
        var unworn = standard + Grade.OfBore(standard, most, system: schools.Steps).Under;
        var needed = schools.Centres == Centres.Original ? unworn + (2 * Math.Max(0, most - unworn)) : most;
        return Grade.OversizeThatCleansUp(standard, needed, schools.BoringAllowance, schools.Steps);
    }

    public static IReadOnlyList<MachiningPlan> Of(AddressTable table, ReadingBook book, LimitBook limits, Schools schools, Cracks cracks)
    {
        var plans = new List<MachiningPlan>();
        foreach (
            var (kind, id, name) in new[]
            {
                (PartKinds.Crankpin, Characteristics.PinDiameter, Fact.Of("gauge.crankpins")),
                (PartKinds.MainJournal, Characteristics.MainDiameter, Fact.Of("gauge.main-journals")),
            }
        )
        {
            if (limits.Nominal(id, kind) is { } standard && Worst(table, book, kind, id, Take.Least) is { } worst)
            {
                var plan = Grind(kind, name, standard, worst, schools);
                plans.Add(
                    table.OfKind(kind).Select(cracks.Condemns).FirstOrDefault(at => at is not null) is { } cracked
                        ? plan with
                        {
                            Size = null,
                            Step = "",
                            Words = Fact.Of("gauge.not-ground-crack-condemns-shaft", ("name", name), ("cracked", cracked)),
                        }
                        : plan
                );
            }
        }

        if (
            limits.Nominal(Characteristics.BoreDiameter, PartKinds.Bore) is { } bore
            && Worst(table, book, PartKinds.Bore, Characteristics.BoreDiameter, Take.Greatest) is { } widest
        )
        {
            var plan = Bore(bore, widest, schools);
            plans.Add(
                table.OfKind(PartKinds.Bore).Select(cracks.Condemns).FirstOrDefault(at => at is not null) is { } cracked
                    ? plan with
                    {
                        Size = null,
                        Step = "",
                        Words = Fact.Of("gauge.bores-nothing-bored-before-specialist", ("cracked", cracked)),
                    }
                    : plan
            );
        }

        return plans;
    }

    private static MachiningPlan Grind(
        string kind,
        Fact name,
        decimal standard,
        (string Place, Estimate Size, int Of, int All) worst,
        Schools schools
    )
    {
        // The uncertainty counts against us: the journal may be smaller than it was read.
        var next = Undersize(standard, (decimal)(worst.Size.Value - worst.Size.Expanded), schools);
        var rest = Rest(worst.Of, worst.All);
        return next is null
            ? new MachiningPlan(
                kind,
                worst.Place,
                worst.Size.Value,
                null,
                "",
                Fact.Of(
                    "gauge.usual-undersize-cleans-up-metal",
                    ("name", name),
                    ("place", worst.Place),
                    ("size", Amount.Length(worst.Size.Value)),
                    ("rest", rest)
                )
            )
            : new MachiningPlan(
                kind,
                worst.Place,
                worst.Size.Value,
                (double)(standard - next.Under),
                next.Name,
                next.Under == 0
                    ? Fact.Of(
                        "gauge.worst-standard-size-would-still",
                        ("name", name),
                        ("place", worst.Place),
                        ("size", Amount.Length(worst.Size.Value)),
                        ("rest", rest)
                    )
                    : Fact.Of(
                        "gauge.if-ground-all-under-worst",
                        ("name", name),
                        ("next", next.Name),
                        ("to", Amount.Length(standard - next.Under)),
                        ("place", worst.Place),
                        ("size", Amount.Length(worst.Size.Value)),
                        ("centres", schools.Centres == Centres.Original ? Fact.Of("gauge.ground-on-old-centres") : null),
                        ("allowance", Amount.Length(schools.GrindingAllowance, 2)),
                        ("rest", rest)
                    )
            );
    }

    private static MachiningPlan Bore(decimal standard, (string Place, Estimate Size, int Of, int All) worst, Schools schools)
    {
        var next = Oversize(standard, (decimal)(worst.Size.Value + worst.Size.Expanded), schools);
        var rest = Rest(worst.Of, worst.All);
        return next is null
            ? new MachiningPlan(
                PartKinds.Bore,
                worst.Place,
                worst.Size.Value,
                null,
                "",
                Fact.Of("gauge.bores-usual-oversize-cleans-up", ("place", worst.Place), ("size", Amount.Length(worst.Size.Value)), ("rest", rest))
            )
            : new MachiningPlan(
                PartKinds.Bore,
                worst.Place,
                worst.Size.Value,
                (double)(standard + next.Under),
                next.Name,
                Fact.All(
                    Fact.Of(
                        "gauge.bores-if-bored-all-over",
                        ("next", next.Name),
                        ("to", Amount.Length(standard + next.Under)),
                        ("place", worst.Place),
                        ("size", Amount.Length(worst.Size.Value)),
                        ("centres", schools.Centres == Centres.Original ? Fact.Of("gauge.bored-on-old-centres") : null),
                        ("allowance", Amount.Length(schools.BoringAllowance, 2))
                    ),
                    rest,
                    Fact.Of(schools.CutRidge ? "gauge.ridge-is-cut" : "gauge.ridge-is-left-to-the-bar"),
                    schools.Honing == Honing.Ball ? Fact.Of("gauge.ball-hone-follows-the-bore") : null
                )
            );
    }

    private static Fact? Rest(int measured, int all) =>
        measured < all ? Fact.Of("gauge.only-so-many-measured", ("measured", measured), ("all", all)) : null;

    private static (string Place, Estimate Size, int Of, int All)? Worst(AddressTable table, ReadingBook book, string kind, string id, Take take)
    {
        var all = table.OfKind(kind).ToArray();
        var found = all.Select(a => (a.Code, Size: book.Whole(a.Code, id, Phase.AsFound, take))).Where(x => x.Size is not null).ToArray();
        if (found.Length == 0)
        {
            return null;
        }

        var (code, size) = take == Take.Least ? found.MinBy(x => x.Size!.Value) : found.MaxBy(x => x.Size!.Value);
        return (code, size!, found.Length, all.Length);
    }
}

namespace VividSleuth.Core.Gauge;

/// <summary>
/// What wear leaves to machine. Wear is mostly on one side: on the old centres as much comes off the other side too; following the wear it does
/// not. Common practice, no source; the geometry is plain (a round about the old centre reaches as far as the deepest loss on any side).
/// </summary>
public static class Machining
{
    /// <summary>Diameter of the largest round left in a worn journal.</summary>
    /// <param name="unworn">Diameter before it wore, mm.</param>
    /// <param name="least">Smallest diameter found, mm.</param>
    public static decimal Left(decimal unworn, decimal least, Centres centres) =>
        centres == Centres.Original ? unworn - (2 * Math.Max(0, unworn - least)) : least;

    /// <summary>Diameter of the smallest round that takes in a worn bore.</summary>
    /// <param name="unworn">Diameter before it wore, mm.</param>
    /// <param name="most">Largest diameter found, mm.</param>
    public static decimal Taken(decimal unworn, decimal most, Centres centres) =>
        centres == Centres.Original ? unworn + (2 * Math.Max(0, most - unworn)) : most;

    /// <summary>The step to which a journal is ground, taking it for unworn at the step it was made to.</summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="least">Smallest diameter found, mm.</param>
    /// <returns>Null where no step is deep enough.</returns>
    public static Grade? Undersize(decimal standard, decimal least, SizeSteps steps, Schools schools) =>
        steps.UndersizeThatCleansUp(
            standard,
            Left(standard - steps.OfJournal(standard, least).Under, least, schools.Centres),
            schools.GrindingAllowance
        );

    /// <summary>The step to which a bore is bored, as <see cref="Undersize"/>.</summary>
    /// <param name="standard">Standard bore, mm.</param>
    /// <param name="most">Largest diameter found, mm.</param>
    /// <returns>Null where no step is large enough.</returns>
    public static Grade? Oversize(decimal standard, decimal most, SizeSteps steps, Schools schools) =>
        steps.OversizeThatCleansUp(standard, Taken(standard + steps.OfBore(standard, most).Under, most, schools.Centres), schools.BoringAllowance);
}

namespace VividSleuth.Core.Gauge;

/// <summary>A size grade: how far under standard a journal is ground, or for which journal a shell is made.</summary>
/// <param name="Under">Undersize in mm; 0 is standard.</param>
public sealed record Grade(decimal Under)
{
    /// <summary>The usual steps, metric and inch (0.001 to 0.003 in are the odd small ones). Common practice, no source.</summary>
    public static IReadOnlyList<Grade> Usual { get; } =
    [.. new[] { 0m, 0.0254m, 0.0508m, 0.0762m, 0.25m, 0.254m, 0.50m, 0.508m, 0.75m, 0.762m, 1.00m, 1.016m }.Select(u => new Grade(u))];

    public string Name =>
        Under switch
        {
            0 => "STD",
            0.0254m or 0.0508m or 0.0762m or 0.254m or 0.508m or 0.762m or 1.016m => $".{Under / 0.0254m:000}",
            _ => $"{Under:0.00}",
        };

    /// <summary>True for a step of the system; standard is of both.</summary>
    public bool In(StepSystem system) =>
        Under == 0
        || system switch
        {
            StepSystem.Both => true,
            StepSystem.Metric => Under % 0.25m == 0,
            StepSystem.Inch => Under % 0.0254m == 0,
            _ => throw new ArgumentOutOfRangeException(nameof(system)),
        };

    /// <summary>Two grades are one when no shop micrometer would tell them apart by their wear: 0.25 mm and .010 in.</summary>
    public bool IsLike(Grade other) => Math.Abs(Under - other.Under) <= 0.0165m;

    /// <summary>Reads a stamp: STD, 0.25, .010, 010, 25 (hundredths), US 0.50.</summary>
    /// <returns>Null where the stamp cannot be read as one grade only.</returns>
    public static Grade? FromStamp(string stamp)
    {
        var text = stamp.Trim().ToUpperInvariant().Replace("US", "", StringComparison.Ordinal).Replace("MM", "", StringComparison.Ordinal).Trim();
        return text switch
        {
            "STD" or "S" or "STANDARD" or "0" or "0.00" => new Grade(0),
            "0.25" or "25" or "-0.25" => new Grade(0.25m),
            "0.50" or "0.5" or "50" or "-0.50" => new Grade(0.50m),
            "0.75" or "75" or "-0.75" => new Grade(0.75m),
            "1.00" or "1.0" or "100" or "-1.00" => new Grade(1.00m),
            ".001" or "001" => new Grade(0.0254m),
            ".002" or "002" => new Grade(0.0508m),
            ".003" or "003" => new Grade(0.0762m),
            ".010" or "010" or "10" => new Grade(0.254m),
            ".020" or "020" or "20" => new Grade(0.508m),
            ".030" or "030" or "30" => new Grade(0.762m),
            ".040" or "040" or "40" => new Grade(1.016m),
            _ => null,
        };
    }

    /// <summary>
    /// The grade to which a journal was ground: wear only takes away, so it is the usual step whose size lies at or just above
    /// what is found. Of two that fit alike (0.25 mm and .010 in) the metric one is named.
    /// </summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="found">Measured diameter, mm.</param>
    /// <param name="grinding">Tolerance of grinding, mm: how far above its grade a journal may be.</param>
    public static Grade OfJournal(decimal standard, decimal found, decimal grinding = 0.010m, StepSystem system = StepSystem.Both) =>
        Usual.Where(g => g.Under <= standard - found + grinding && IsGround(g, system)).MaxBy(g => g.Under) ?? Usual[0];

    /// <summary>The oversize to which a bore was bored: wear only adds, so it is the usual step whose size lies at or just under what is found.</summary>
    /// <param name="standard">Standard bore, mm.</param>
    /// <param name="found">Measured bore, mm.</param>
    /// <param name="honing">How far under its grade a bore may be, mm.</param>
    public static Grade OfBore(decimal standard, decimal found, decimal honing = 0.010m, StepSystem system = StepSystem.Both) =>
        Usual.Where(g => g.Under <= found - standard + honing && IsGround(g, system)).MaxBy(g => g.Under) ?? Usual[0];

    /// <summary>The grade a shell is made for: half the undersize is added to the standard wall; the nearest step is taken.</summary>
    public static Grade OfShell(decimal standardWall, decimal foundWall, StepSystem system = StepSystem.Both) =>
        Usual.Where(g => IsGround(g, system)).MinBy(g => Math.Abs(standardWall + (g.Under / 2) - foundWall))!;

    /// <summary>
    /// The first step under the present size that cleans a journal up.
    /// </summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="least">Smallest round that the wear leaves (<see cref="Machining"/>), mm.</param>
    /// <param name="allowance">What grinding takes at least on the diameter beyond the deepest wear, mm; a rule of thumb.</param>
    /// <param name="system">Steps that shells are to be had in.</param>
    /// <returns>Null where no usual step is deep enough.</returns>
    public static Grade? NextThatCleansUp(decimal standard, decimal least, decimal allowance, StepSystem system) =>
        Usual.Where(g => g.In(system) && (g.Under == 0 || g.Under >= 0.25m) && standard - g.Under <= least - allowance).MinBy(g => g.Under);

    /// <summary>The first oversize that cleans a bore up: standard plus a usual step, above the largest diameter found by the allowance.</summary>
    /// <param name="largest">Smallest round that takes the wear in (<see cref="Machining"/>), mm.</param>
    /// <param name="allowance">What boring and honing take at least on the diameter beyond the deepest wear, mm; a rule of thumb.</param>
    /// <returns>Oversize in mm; null where no usual step is large enough.</returns>
    public static Grade? OversizeThatCleansUp(decimal standard, decimal largest, decimal allowance, StepSystem system) =>
        Usual.Where(g => g.In(system) && g.Under >= 0.25m && standard + g.Under >= largest + allowance).MinBy(g => g.Under);

    // The small odd steps are shells for selective fitting, and .010 in is told as 0.25 mm where both are in use: both confuse a search by size.
    private static bool IsGround(Grade grade, StepSystem system) =>
        grade.Under == 0 || (grade.Under >= 0.25m && grade.In(system == StepSystem.Inch ? StepSystem.Inch : StepSystem.Metric));
}

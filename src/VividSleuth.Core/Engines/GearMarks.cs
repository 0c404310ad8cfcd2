namespace VividSleuth.Core.Engines;

/// <summary>Marks of a train of gears.</summary>
public static class GearMarks
{
    /// <summary>
    /// Turns of the first gear after which every gear of the train stands as at the beginning, so that all marks meet again. A gear of z teeth turns
    /// N · z₁ / z times while the first turns N times; N is the least that makes all of these whole. With a hunting tooth it is large: the marks of 43, 67 and 86
    /// teeth meet after 134 turns. Elementary arithmetic; any book on gears.
    /// </summary>
    /// <param name="teeth">Numbers of teeth from the crankshaft's gear over the idlers to the camshaft's; at least one, each above nought.</param>
    /// <returns>Turns of the crankshaft.</returns>
    /// <exception cref="ArgumentOutOfRangeException">No gear, or one without teeth.</exception>
    public static long TurnsUntilTheyMeet(IReadOnlyList<int> teeth)
    {
        if (teeth.Any(t => t < 1) || teeth.Count == 0)
        {
            throw new ArgumentOutOfRangeException(nameof(teeth));
        }

        var turns = 1L;
        foreach (var each in teeth)
        {
            var needed = each / Gcd(teeth[0], each);
            turns = turns / Gcd(turns, needed) * needed;
        }

        return turns;
    }

    private static long Gcd(long a, long b) => b == 0 ? a : Gcd(b, a % b);
}

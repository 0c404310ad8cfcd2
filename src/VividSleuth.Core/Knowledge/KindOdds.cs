namespace VividSleuth.Core.Knowledge;

/// <summary>
/// That engines of one kind fail in one way, or at one cylinder, more often than others do: taken over by a person from the shop's closed cases, never
/// by itself.
/// </summary>
/// <param name="Kind">What the engine is called at arrival.</param>
/// <param name="Cause">Id of the cause; empty for any.</param>
/// <param name="Cylinder">Null for any.</param>
/// <param name="Times">By how much its odds are multiplied.</param>
/// <param name="Seen">Closed cases of the kind in which it was so.</param>
/// <param name="Of">Closed cases of the kind that could show it.</param>
public sealed record KindOdds(string Kind, string Cause, int? Cylinder, double Times, int Seen, int Of)
{
    /// <summary>Whether an engine is of the kind.</summary>
    public bool Holds(string engineName) => Kind.Trim().Equals(engineName.Trim(), StringComparison.OrdinalIgnoreCase);

    /// <summary>Whether two speak of the same.</summary>
    public bool IsOf(KindOdds other) => Holds(other.Kind) && Cause == other.Cause && Cylinder == other.Cylinder;
}

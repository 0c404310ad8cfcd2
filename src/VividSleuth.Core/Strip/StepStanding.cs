using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Strip;

/// <summary>How far a step has come.</summary>
/// <param name="State">Null while something of it is left to do.</param>
/// <param name="Records">All that stand, the first first.</param>
/// <param name="Stations">Stations at which it is done or was found done; all of them where it was recorded as a whole.</param>
public sealed record StepStanding(StepState? State, IReadOnlyList<StepRecord> Records, IReadOnlySet<int> Stations)
{
    public static StepStanding None { get; } = new(null, [], new HashSet<int>());

    public StepRecord? Latest => Records.Count > 0 ? Records[^1] : null;

    /// <summary>Done or found done, as a whole or at some stations.</summary>
    internal bool Begun => State is StepState.Done or StepState.WasOff || Stations.Count > 0;

    /// <summary>Whether what lies behind the step at a station is free of it; 0 asks for the step as a whole.</summary>
    internal bool Frees(StripStep step, int station) => TakesOff(station) || (State == StepState.Skipped && !step.Closes);

    /// <summary>Whether what the step takes off at a station is off; a step that was left out takes nothing off.</summary>
    internal bool TakesOff(int station) => State is StepState.Done or StepState.WasOff || (station > 0 && Stations.Contains(station));

    internal static StepStanding Of(StripStep step, IEnumerable<StepRecord> records, Engine engine)
    {
        var standing = records.OrderBy(r => r.At).ThenBy(r => r.Id).ToArray();
        if (standing.Length == 0)
        {
            return None;
        }

        var all = StepStations.Of(step, engine);
        var did = standing.Where(r => r.State != StepState.Skipped).ToArray();
        var stations = did.SelectMany(r => r.Stations.Count == 0 ? all : r.Stations).ToHashSet();
        StepState? state =
            Array.Exists(did, r => r.Stations.Count == 0) || (all.Count > 0 && all.All(stations.Contains))
                ? did.All(r => r.State == StepState.WasOff)
                    ? StepState.WasOff
                    : StepState.Done
                : Array.Exists(standing, r => r.State == StepState.Skipped)
                    ? StepState.Skipped
                    : null;
        return new StepStanding(state, standing, stations);
    }
}

/// <summary>The stations at which a step can be done one by one, and what stands at each.</summary>
public static class StepStations
{
    /// <summary>Numbers of the stations; none where the step is one act.</summary>
    public static IReadOnlyList<int> Of(StripStep step, Engine engine) =>
        step.OneAtATime && step.Per != FastenerCount.InAll ? [.. Enumerable.Range(1, FastenerLedger.CountOf(step.Per, engine))] : [];

    public static StationScope ScopeOf(FastenerCount per) =>
        per switch
        {
            FastenerCount.InAll => StationScope.Engine,
            FastenerCount.PerCylinder => StationScope.Cylinder,
            FastenerCount.PerMain => StationScope.Main,
            FastenerCount.PerBank => StationScope.Bank,
            FastenerCount.PerCamshaft => StationScope.Camshaft,
            _ => throw new ArgumentOutOfRangeException(nameof(per)),
        };

    /// <summary>Whether a place belongs to a station of the step. What belongs to the engine as a whole belongs to none.</summary>
    public static bool Has(FastenerCount per, int station, Address place, Engine engine) =>
        (per, place.Kind.Scope) switch
        {
            (FastenerCount.PerCylinder, StationScope.Cylinder) => place.Station == station,
            (FastenerCount.PerCylinder, StationScope.Crankpin) => engine.Cylinder(station).Crankpin == place.Station,
            (FastenerCount.PerMain, StationScope.Main) => place.Station == station,
            (FastenerCount.PerBank, StationScope.Bank) => place.Station == station,
            (FastenerCount.PerBank, StationScope.Cylinder or StationScope.Camshaft) => BankOf(place, engine) == station,
            (FastenerCount.PerCamshaft, StationScope.Camshaft) => place.Station == station,
            _ => false,
        };

    /// <summary>The station of another step that a station of this one stands at or in; 0 where there is none such.</summary>
    public static int Within(FastenerCount per, int station, FastenerCount other, Engine engine) =>
        per == other ? station
        : (per, other) == (FastenerCount.PerCylinder, FastenerCount.PerBank) ? (int)engine.Cylinder(station).Bank + 1
        : 0;

    /// <summary>The station of a step at which a place is reached; 0 where the step must be done as a whole.</summary>
    public static int At(StripStep step, Address place, Engine engine) => Of(step, engine).FirstOrDefault(s => Has(step.Per, s, place, engine));

    private static int BankOf(Address place, Engine engine) => (int)Along.BankOf(place, engine) + 1;
}

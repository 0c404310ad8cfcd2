using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Trace;

/// <summary>Finds the places a cause speaks of, relative to where it began.</summary>
public static class Places
{
    /// <summary>The stations at which a cause can begin; the engine as a whole is station 0.</summary>
    public static IEnumerable<int> Stations(Engine engine, Anchor anchor) =>
        anchor switch
        {
            Anchor.Engine => [0],
            Anchor.Cylinder => Enumerable.Range(1, engine.Layout.Cylinders),
            Anchor.Main => Enumerable.Range(1, engine.Mains),
            _ => throw new ArgumentOutOfRangeException(nameof(anchor)),
        };

    /// <summary>Addresses of one kind in a relation to the station where a cause began; none where the engine has none.</summary>
    public static IEnumerable<Address> Resolve(AddressTable table, Anchor anchor, int station, string kind, Relation relation)
    {
        var scope = PartKinds.Get(kind).Scope;
        // A part that only this engine has stands at no station: it is one of all of its like.
        var own = scope == StationScope.Engine || anchor == Anchor.Engine || relation == Relation.Every ? table.OwnLike(kind) : [];
        return Numbers(table.Engine, anchor, station, scope, relation).Distinct().SelectMany(n => table.At(kind, n)).Concat(own);
    }

    private static IEnumerable<int> Numbers(Engine engine, Anchor anchor, int station, StationScope scope, Relation relation)
    {
        if (scope == StationScope.Engine)
        {
            return [0];
        }

        // A camshaft serves all its cylinders: whatever begins at one of them is looked for on each.
        if (scope == StationScope.Camshaft)
        {
            return Enumerable.Range(1, engine.Camshafts);
        }

        if (anchor == Anchor.Engine && relation != Relation.FarEnd)
        {
            relation = Relation.Every;
        }

        switch (relation)
        {
            case Relation.Every:
                return All(engine, scope);
            case Relation.Others:
                return All(engine, scope).Except(Numbers(engine, anchor, station, scope, Relation.Same));
            case Relation.FarEnd:
                return Stops(engine, engine.OilRoute.Skip(engine.OilRoute.Count / 2), scope);
            case Relation.Downstream:
                return Stops(engine, engine.Downstream(Stop(engine, anchor, station)), scope);
            default:
                break;
        }

        if (anchor == Anchor.Main)
        {
            int[] mains = relation switch
            {
                Relation.Same => [station],
                Relation.Neighbours => [station - 1, station + 1],
                _ => [],
            };
            return scope == StationScope.Main ? mains : Stops(engine, Beside(engine, mains), scope);
        }

        var cylinders = relation switch
        {
            Relation.Same => [engine.Cylinder(station)],
            Relation.Neighbours => engine.Neighbours(station),
            Relation.Companion => engine.Companion(station) is { } c ? [c] : [],
            Relation.SamePin => engine.OnCrankpin(engine.Cylinder(station).Crankpin).Where(c => c.Number != station),
            Relation.Bank => engine.Cylinders.Where(c => c.Bank == engine.Cylinder(station).Bank && c.Number != station),
            _ => [],
        };
        return cylinders.SelectMany(c =>
            scope switch
            {
                StationScope.Cylinder => [c.Number],
                StationScope.Crankpin => [c.Crankpin],
                StationScope.Main => c.FlankingMains,
                StationScope.Bank => [c.Bank == Bank.A ? 1 : 2],
                _ => (IEnumerable<int>)[],
            }
        );
    }

    private static IEnumerable<int> All(Engine engine, StationScope scope) =>
        scope switch
        {
            StationScope.Cylinder => Enumerable.Range(1, engine.Layout.Cylinders),
            StationScope.Crankpin => Enumerable.Range(1, engine.Crankpins),
            StationScope.Main => Enumerable.Range(1, engine.Mains),
            StationScope.Bank => Enumerable.Range(1, engine.Banks),
            _ => [],
        };

    private static OilStop Stop(Engine engine, Anchor anchor, int station) =>
        anchor == Anchor.Main ? new OilStop(BearingKind.Main, station) : new OilStop(BearingKind.Crankpin, engine.Cylinder(station).Crankpin);

    private static IEnumerable<OilStop> Beside(Engine engine, int[] mains) =>
        Enumerable.Range(1, engine.Crankpins).Where(p => engine.MainsBeside(p).Any(mains.Contains)).Select(p => new OilStop(BearingKind.Crankpin, p));

    private static IEnumerable<int> Stops(Engine engine, IEnumerable<OilStop> stops, StationScope scope)
    {
        var list = stops.ToArray();
        var mains = list.Where(s => s.Kind == BearingKind.Main).Select(s => s.Number);
        var pins = list.Where(s => s.Kind == BearingKind.Crankpin).Select(s => s.Number);
        return scope switch
        {
            StationScope.Main => mains,
            StationScope.Crankpin => pins,
            StationScope.Cylinder => pins.SelectMany(engine.OnCrankpin).Select(c => c.Number),
            _ => [],
        };
    }
}

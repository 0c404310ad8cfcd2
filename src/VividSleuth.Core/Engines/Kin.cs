namespace VividSleuth.Core.Engines;

/// <summary>Which part of another kind belongs to a place: the piston of a bore, the crankpin of a rod, the head of a cylinder.</summary>
public static class Kin
{
    /// <returns>Null where there is none, or more than one.</returns>
    public static Address? Of(AddressTable table, Address place, string kind)
    {
        if (place.Kind.Id == kind)
        {
            return place;
        }

        if (PartKinds.Find(kind) is not { } other)
        {
            return null;
        }

        var engine = table.Engine;
        int? station = (place.Kind.Scope, other.Scope) switch
        {
            (_, StationScope.Engine) => 0,
            var (a, b) when a == b => place.Station,
            (StationScope.Cylinder, StationScope.Crankpin) => engine.Cylinder(place.Station).Crankpin,
            (StationScope.Cylinder, StationScope.Bank) => (int)engine.Cylinder(place.Station).Bank + 1,
            _ => null,
        };
        if (station is not { } at)
        {
            return null;
        }

        return place.Nth > 0 && table.At(kind, at).FirstOrDefault(a => a.Nth == place.Nth) is { } same ? same : table.Find(kind, at);
    }

    /// <summary>All parts of another kind that stand where a place stands: the rods of a pin, the lobes of a camshaft, all of what the engine has one of.</summary>
    public static IEnumerable<Address> Around(AddressTable table, Address place, string kind)
    {
        if (PartKinds.Find(kind) is not { } other)
        {
            return [];
        }

        var engine = table.Engine;
        return table
            .OfKind(kind)
            .Where(a =>
                (place.Kind.Scope, other.Scope) switch
                {
                    (StationScope.Engine, _) or (_, StationScope.Engine) => true,
                    var (mine, its) when mine == its => a.Station == place.Station,
                    (StationScope.Cylinder, StationScope.Crankpin) => engine.Cylinder(place.Station).Crankpin == a.Station,
                    (StationScope.Crankpin, StationScope.Cylinder) => engine.Cylinder(a.Station).Crankpin == place.Station,
                    (StationScope.Main, _) or (_, StationScope.Main) => true,
                    _ => Along.BankOf(a, engine) == Along.BankOf(place, engine),
                }
            );
    }
}

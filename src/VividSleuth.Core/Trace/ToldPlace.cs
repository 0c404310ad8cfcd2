using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>Where a cause is told to sit, by what was found.</summary>
internal static class ToldPlace
{
    private const string Inlet = "-inlet";
    private const string Exhaust = "-exhaust";

    /// <summary>
    /// The place told: of the parts at which a cause may sit the one where its signs lie, as of two camshafts that whose lobes are worn. Of the whole
    /// engine where they lie at several alike.
    /// </summary>
    public static string Of(TraceModel model, Hypothesis hypothesis)
    {
        var seats = hypothesis.Wide
            ? []
            : Sisters(hypothesis.Cause.Seat)
                .SelectMany(k => Places.Resolve(model.Table, hypothesis.Cause.Anchor, hypothesis.Station, k, Relation.Same))
                .ToArray();
        if (seats.Length < 2)
        {
            return hypothesis.Seat;
        }

        var found = hypothesis
            .Strongest()
            .Where(p => model.Evidence.TryGetValue((p.Sign, p.Place), out var e) && e.Seen == Seen.Present)
            .Select(p => model.Table.Find(p.Place))
            .OfType<Address>()
            .ToArray();
        var scored = seats
            .Select(seat => (Seat: seat, Score: found.Sum(f => At(model.Table.Engine, f, seat))))
            .OrderByDescending(x => x.Score)
            .ToArray();
        return scored[0].Score > scored[1].Score ? scored[0].Seat.Code
            : hypothesis.Cause.Anchor == Anchor.Engine ? PartKinds.Get(PartKinds.Engine).Letters
            : hypothesis.Seat;
    }

    /// <summary>A kind of part, and that of the other side where it has one: what is said of an inlet spring is said of an exhaust spring.</summary>
    private static IEnumerable<string> Sisters(string kind)
    {
        yield return kind;
        var other =
            kind.EndsWith(Inlet, StringComparison.Ordinal) ? kind[..^Inlet.Length] + Exhaust
            : kind.EndsWith(Exhaust, StringComparison.Ordinal) ? kind[..^Exhaust.Length] + Inlet
            : "";
        if (other.Length > 0 && PartKinds.Find(other) is not null)
        {
            yield return other;
        }
    }

    /// <summary>How much a place where a sign lies speaks for a seat: the seat itself, its station, its bank.</summary>
    private static int At(Engine engine, Address found, Address seat)
    {
        bool Cylinder(Address a) => a.Kind.Scope == StationScope.Cylinder;
        int BankOf(int cylinder) => engine.Cylinder(cylinder).Bank == Bank.A ? 1 : 2;
        return found.Code == seat.Code ? 4
            : found.Kind.Scope == seat.Kind.Scope && found.Station == seat.Station && found.Kind.Scope != StationScope.Engine
                ? found.Nth == seat.Nth ? 2
                    : 1
            : seat.Kind.Scope == StationScope.Bank && Cylinder(found) && BankOf(found.Station) == seat.Station ? 1
            : seat.Kind.Scope == StationScope.Camshaft
            && Cylinder(found)
            && engine.Banks == 2
            && BankOf(found.Station) == (((seat.Station - 1) * engine.Banks / Math.Max(1, engine.Camshafts)) + 1)
                ? 1
            : 0;
    }
}

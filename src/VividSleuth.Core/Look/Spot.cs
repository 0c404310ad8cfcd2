using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Look;

/// <summary>A finding held against one on a mate whose map shares an axis with its own.</summary>
/// <param name="LinesUp">True when they lie over each other, false when they do not.</param>
public sealed record Alignment(Guid Finding, string Place, bool LinesUp, Fact Words);

/// <summary>Where a finding lies, reckoned from the zones that were touched.</summary>
/// <param name="Words">The position as one says it.</param>
/// <param name="Share">Share of the face that the zones cover, 0–1.</param>
/// <param name="Sides">Sides of the part on which most of it lies.</param>
/// <param name="Edges">Edges that it reaches.</param>
public sealed record Spot(
    Guid Finding,
    Fact Words,
    double Share,
    IReadOnlyList<Fact> Sides,
    IReadOnlyList<Fact> Edges,
    IReadOnlyList<Alignment> Mates
);

/// <summary>Reckons position, share of area, side and edge from touched zones, and whether they line up with the mate's.</summary>
public static class Spots
{
    /// <summary>A side is named when at least this share of the touched area lies on it.</summary>
    private const double MostOnASide = 0.6;

    /// <summary>What covers more of an axis than this says nothing about where on it.</summary>
    private const double AllRound = 0.75;

    private const string BothThrustFaces = "both-thrust-faces";

    /// <summary>Mates that are told of one finding, those that line up first.</summary>
    private const int MostMates = 6;

    public static IReadOnlyList<Spot> Of(IReadOnlyList<Finding> findings, AddressTable table)
    {
        var placed = OnMaps(findings, table);
        var near = placed.SelectMany(p => p.Stations(table.Engine).Select(k => (k, p))).ToLookup(x => x.k, x => x.p);
        return
        [
            .. placed.Select(p => Reckon(p) with { Mates = Mates(p, p.Stations(table.Engine).SelectMany(k => near[k]).Distinct(), table.Engine) }),
        ];
    }

    /// <summary>Where something would lie that is not recorded yet, held against what is recorded of its mates.</summary>
    /// <returns>Null where the part has no map.</returns>
    public static Spot? Preview(IReadOnlyList<Finding> findings, AddressTable table, Address place, IReadOnlyList<string> zones)
    {
        if (ZoneMaps.Of(place, table.Engine) is not { } map)
        {
            return null;
        }

        var trial = new OnMap(
            new Finding
            {
                Place = place.Code,
                Seen = Seen.Present,
                Zones = [.. zones],
            },
            place,
            map
        );
        return Reckon(trial) with { Mates = Mates(trial, OnMaps(findings, table).Where(p => p.At != place), table.Engine) };
    }

    /// <param name="zones">Codes of zones; those the map does not have are passed over.</param>
    public static Spot Of(Guid finding, IReadOnlyList<string> zones, ZoneMap map) =>
        Reckon(new OnMap(new Finding { Id = finding, Zones = [.. zones] }, null!, map));

    private static Spot Reckon(OnMap placed)
    {
        var words = new List<Fact>();
        var sides = new List<string>();
        var edges = new List<ZoneRow>();
        var share = 0.0;
        foreach (var (face, on) in placed.Faces)
        {
            share = Math.Max(share, on.Sum(z => Area(face, z.Row)));
            var faceSides = SidesOf(face, on);
            sides.AddRange(faceSides);
            edges.AddRange(on.Select(z => face.Rows[z.Row]).Where(r => r.Edge.Length > 0));
            words.Add(
                Fact.Of("look.on-a-face", ("parts", new[] { RowWords(face, on), ColumnWords(face, on) }.Concat(faceSides.Select(Side)).ToArray()))
            );
        }

        return new Spot(
            placed.Finding.Id,
            Fact.Of("look.spot", ("faces", words)),
            share,
            [.. sides.Distinct(StringComparer.Ordinal).Select(Side)],
            [.. edges.DistinctBy(e => e.Edge).Select(e => e.EdgeWords!)],
            []
        );
    }

    private static OnMap[] OnMaps(IReadOnlyList<Finding> findings, AddressTable table) =>
        [
            .. findings
                .Where(f => f.Stands() && f.Zones.Count > 0)
                .Select(f => (Finding: f, At: table.Find(f.Place)))
                .Where(x => x.At is not null)
                .Select(x => (x.Finding, At: x.At!, Map: ZoneMaps.Of(x.At!, table.Engine)))
                .Where(x => x.Map is not null)
                .Select(x => new OnMap(x.Finding, x.At, x.Map!)),
        ];

    private static IReadOnlyList<Alignment> Mates(OnMap mine, IEnumerable<OnMap> others, Engine engine) =>
        [
            .. others
                .Where(o => o.At != mine.At && AreOpposed(mine.At, o.At, engine))
                .Select(o => Align(mine, o))
                .OfType<Alignment>()
                .OrderByDescending(a => a.LinesUp)
                .Take(MostMates),
        ];

    /// <summary>Share of the face that one zone of a row covers; the rings of a round face grow with the square of the radius.</summary>
    private static double Area(ZoneFace face, int row)
    {
        var whole = face.Rows.Sum(r => r.Size);
        if (face.Shape == FaceShape.Unwrapped)
        {
            return face.Rows[row].Size / whole / face.Columns;
        }

        var outer = face.Rows.Skip(row).Sum(r => r.Size) / whole;
        var inner = face.Rows.Skip(row + 1).Sum(r => r.Size) / whole;
        return ((outer * outer) - (inner * inner)) / face.Columns;
    }

    private static string[] SidesOf(ZoneFace face, (int Row, int Column)[] on)
    {
        if (Columns(on).Count > AllRound * face.Columns)
        {
            return [];
        }

        var whole = on.Sum(z => Area(face, z.Row));
        var shares = face
            .Features.Where(f => f.IsSide)
            .Select(f => (f.Id, Share: on.Where(z => IsOn(face, f, z.Column)).Sum(z => Area(face, z.Row)) / whole))
            .ToArray();
        if (Array.Find(shares, s => s.Share >= MostOnASide) is { Id: { } one })
        {
            return [one];
        }

        // Half on the one thrust face and half on the other.
        var thrust = shares.Where(s => s.Id is ZoneMaps.ThrustSide or ZoneMaps.OtherSide && s.Share > 0.2).ToArray();
        return thrust.Length == 2 && thrust.Sum(s => s.Share) >= MostOnASide ? [BothThrustFaces] : [];
    }

    private static Fact Side(string id) => id == BothThrustFaces ? Fact.Of("look.both-thrust-faces") : Fact.Of($"zone.feature.{id}");

    private static bool IsOn(ZoneFace face, ZoneFeature feature, int column)
    {
        var away = Math.Abs(column - feature.Column);
        return Math.Min(away, face.Wraps ? face.Columns - away : away) <= feature.Width / 2;
    }

    private static Fact RowWords(ZoneFace face, (int Row, int Column)[] on)
    {
        var rows = on.Select(z => z.Row).Distinct().Order().ToArray();
        return rows.Length == face.Rows.Count && rows.Length > 1
            ? face.Shape == FaceShape.Round
                ? Fact.Of("look.from-edge-middle")
                : Fact.Of("look.from-end-end")
            : Fact.Of(
                "look.runs",
                (
                    "runs",
                    Runs(rows, 0)
                        .Select(r =>
                            r.First == r.Last
                                ? face.Rows[r.First].Words
                                : Fact.Of("look.to", ("first", face.Rows[r.First].Words), ("last", face.Rows[r.Last].Words))
                        )
                        .ToArray()
                )
            );
    }

    private static Fact ColumnWords(ZoneFace face, (int Row, int Column)[] on)
    {
        var columns = Columns(on);
        if (columns.Count == face.Columns)
        {
            return face.ColumnAxis == ZoneAxis.ShellArc ? Fact.Of("look.whole-arc") : Fact.Of("look.all-round");
        }

        var hours = face.Columns == 12;
        return Fact.Of(
            "look.runs",
            (
                "runs",
                Runs([.. columns], face.Wraps ? face.Columns : 0)
                    .Select(r =>
                        hours
                            ? r.First == r.Last
                                ? Fact.Of("zone.hour", ("hour", r.First))
                                : Fact.Of("look.hours", ("first", r.First), ("last", r.Last))
                            : r.First == r.Last
                                ? face.ColumnWords[r.First - 1]
                                : Fact.Of("look.to", ("first", face.ColumnWords[r.First - 1]), ("last", face.ColumnWords[r.Last - 1]))
                    )
                    .ToArray()
            )
        );
    }

    /// <summary>Runs of numbers that follow each other; on a circle of so many the last runs on into the first.</summary>
    internal static IReadOnlyList<(int First, int Last)> Runs(int[] sorted, int circle)
    {
        var runs = new List<(int First, int Last)>();
        foreach (var n in sorted)
        {
            if (runs.Count > 0 && runs[^1].Last == n - 1)
            {
                runs[^1] = (runs[^1].First, n);
            }
            else
            {
                runs.Add((n, n));
            }
        }

        if (circle > 0 && runs.Count > 1 && runs[0].First == 1 && runs[^1].Last == circle)
        {
            runs[^1] = (runs[^1].First, runs[0].Last);
            runs.RemoveAt(0);
        }

        return runs;
    }

    private static SortedSet<int> Columns(IEnumerable<(int Row, int Column)> on) => [.. on.Select(z => z.Column)];

    /// <summary>Parts that run on each other or sit in each other at one station.</summary>
    private static bool AreOpposed(Address a, Address b, Engine engine) =>
        (a.Kind.Scope, b.Kind.Scope) switch
        {
            (StationScope.Cylinder, StationScope.Crankpin) => engine.Cylinder(a.Station).Crankpin == b.Station,
            (StationScope.Crankpin, StationScope.Cylinder) => engine.Cylinder(b.Station).Crankpin == a.Station,
            var (x, y) => x == y && a.Station == b.Station,
        };

    private static Alignment? Align(OnMap mine, OnMap other)
    {
        if (mine.Finding.Seen != Seen.Present || other.Finding.Seen != Seen.Present)
        {
            return null;
        }

        foreach (var (face, on) in mine.Faces)
        {
            foreach (var (otherFace, across) in other.Faces)
            {
                if (face.ColumnAxis == ZoneAxis.CylinderClock && otherFace.ColumnAxis == ZoneAxis.CylinderClock)
                {
                    return Hold(other.Finding.Id, other.At.Code, Columns(on), Columns(across), 12, h => Fact.Of("zone.hour", ("hour", h)));
                }

                if (face.RowAxis == ZoneAxis.CrankWidth && otherFace.RowAxis == ZoneAxis.CrankWidth && face.Id == "back" == (otherFace.Id == "back"))
                {
                    return HoldWidth(other.Finding.Id, mine.At, other.At, face, on, otherFace, across);
                }
            }
        }

        return null;
    }

    private static Alignment? Hold(Guid finding, string place, SortedSet<int> mine, SortedSet<int> theirs, int circle, Func<int, Fact> words)
    {
        if (mine.Count > AllRound * circle || theirs.Count > AllRound * circle)
        {
            return null;
        }

        var shared = mine.Intersect(theirs).ToArray();
        var linesUp = 2 * shared.Length >= Math.Min(mine.Count, theirs.Count);
        return new Alignment(
            finding,
            place,
            linesUp,
            linesUp
                ? Fact.Of("look.lines-up", ("place", place), ("at", words(shared[0])))
                : Fact.Of("look.does-not-line-up", ("place", place), ("at", words(theirs.Min)))
        );
    }

    private static Alignment? HoldWidth(
        Guid finding,
        Address at,
        Address otherAt,
        ZoneFace face,
        (int Row, int Column)[] mine,
        ZoneFace otherFace,
        (int Row, int Column)[] theirs
    )
    {
        var here = Across(face, mine);
        var there = Across(otherFace, theirs);
        if (here.To - here.From > AllRound || there.To - there.From > AllRound)
        {
            return null;
        }

        var halves = at.Kind.Id != otherAt.Kind.Id && otherFace.ColumnAxis == ZoneAxis.ShellArc && face.ColumnAxis == ZoneAxis.ShellArc;
        if (halves && ((here.To <= 0.4 && there.From >= 0.6) || (there.To <= 0.4 && here.From >= 0.6)))
        {
            return new Alignment(finding, otherAt.Code, true, Fact.Of("look.opposite-corner-two-edges-belong", ("place", otherAt.Code)));
        }

        var shared = Math.Min(here.To, there.To) - Math.Max(here.From, there.From);
        var linesUp = shared >= 0.5 * Math.Min(here.To - here.From, there.To - there.From);
        return new Alignment(
            finding,
            otherAt.Code,
            linesUp,
            linesUp
                ? Fact.Of("look.lines-up-across-width", ("place", otherAt.Code))
                : Fact.Of("look.does-not-line-up-across", ("place", otherAt.Code))
        );
    }

    /// <summary>From where to where the zones reach across a bearing, as shares of the width from the free end.</summary>
    private static (double From, double To) Across(ZoneFace face, (int Row, int Column)[] on)
    {
        var whole = face.Rows.Sum(r => r.Size);
        var first = on.Min(z => z.Row);
        var last = on.Max(z => z.Row);
        return (face.Rows.Take(first).Sum(r => r.Size) / whole, face.Rows.Take(last + 1).Sum(r => r.Size) / whole);
    }

    /// <summary>A finding on its part's map, its zones read once.</summary>
    private sealed class OnMap
    {
        public OnMap(Finding finding, Address at, ZoneMap map)
        {
            Finding = finding;
            At = at;
            var zones = finding.Zones.Select(map.Find).OfType<(ZoneFace Face, int Row, int Column)>().ToArray();
            Faces =
            [
                .. map
                    .Faces.Select(f => (f, zones.Where(z => z.Face == f).Select(z => (z.Row, z.Column)).Distinct().Order().ToArray()))
                    .Where(x => x.Item2.Length > 0),
            ];
        }

        public Finding Finding { get; }

        public Address At { get; }

        /// <summary>Faces that it touches, with the zones on each.</summary>
        public IReadOnlyList<(ZoneFace Face, (int Row, int Column)[] On)> Faces { get; }

        /// <summary>Stations at which mates of it may lie.</summary>
        public IEnumerable<(StationScope Scope, int Station)> Stations(Engine engine) =>
            At.Kind.Scope == StationScope.Cylinder
                ? [(StationScope.Cylinder, At.Station), (StationScope.Crankpin, engine.Cylinder(At.Station).Crankpin)]
                : [(At.Kind.Scope, At.Station)];
    }
}

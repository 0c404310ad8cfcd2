using VividSleuth.Core.Engines;
using VividSleuth.Core.Pictures;

namespace VividSleuth.Core.Look;

using OnFace = VividSleuth.Core.Pictures.Spot;

/// <summary>A zone that a patch lies in.</summary>
/// <param name="Code">As a finding keeps it.</param>
/// <param name="Covered">Share of the zone that the patch covers, of what is seen of it.</param>
public sealed record PatchZone(string Code, Fact Row, Fact Column, double Covered);

/// <summary>
/// Lays a patch that is seen in a photograph onto the map of the part. Of what is round, a photograph shows half, and less and less of it toward the
/// sides: what lies u of the way across is seen at the arcsine (orthographic view of a cylinder, elementary geometry). Of a bore it shows all, from above.
/// </summary>
public static class PatchOnMap
{
    // A zone counts where so much of it is covered, or so much of the patch lies in it.
    private const double LeastOfZone = 0.15;

    private const double LeastOfPatch = 0.25;

    // Toward the silhouette a pixel is too much of the round to be told.
    private const double SeenTo = 80;

    /// <summary>Whether a face can be laid from a photograph that its patch was measured in by a task: a bearing’s bore or a cam cannot be seen whole, and a bore’s wall only from above.</summary>
    public static bool CanLay(string kind, ZoneFace face, PictureTask task) =>
        PictureFace.Points(task) > 0 && LayOf(kind, face) is { } lay && (lay == Lay.Wall) == (task is PictureTask.WallShare or PictureTask.WallGrown);

    /// <summary>Whether it has to be told which of its columns faces the camera, or points up.</summary>
    public static bool AsksFacing(string kind, ZoneFace face) => LayOf(kind, face) is Lay.Outside or Lay.Round or Lay.Wall;

    /// <param name="kind">Of the part.</param>
    /// <param name="facing">Column, from 1, that faces the camera; of a face seen from above the one that points up in the picture.</param>
    public static IReadOnlyList<PatchZone> Zones(string kind, ZoneFace face, double facing, FacePatch patch)
    {
        if (LayOf(kind, face) is not { } lay)
        {
            return [];
        }

        var (all, covered) = (new Dictionary<(int Row, int Column), int>(), new Dictionary<(int Row, int Column), int>());
        for (var i = 0; i < patch.Inside.Length; i++)
        {
            if (At(lay, face, facing, FacePatch.Middle(i % FacePatch.Cells, i / FacePatch.Cells)) is not { } zone)
            {
                continue;
            }

            all[zone] = all.GetValueOrDefault(zone) + 1;
            covered[zone] = covered.GetValueOrDefault(zone) + (patch.Inside[i] ? 1 : 0);
        }

        var sum = Math.Max(1, covered.Values.Sum());
        return
        [
            .. covered
                .Where(c => c.Value > LeastOfZone * all[c.Key] || c.Value > LeastOfPatch * sum)
                .OrderByDescending(c => c.Value)
                .ThenBy(c => c.Key)
                .Select(c => new PatchZone(
                    $"{face.Rows[c.Key.Row].Letter}{c.Key.Column}",
                    face.Rows[c.Key.Row].Words,
                    face.ColumnWords[c.Key.Column - 1],
                    (double)c.Value / all[c.Key]
                )),
        ];
    }

    private enum Lay
    {
        /// <summary>The outside of something round, its axis upright: hours to the left go up.</summary>
        Outside,

        /// <summary>A shell, its free end up: from the left parting line to the right one.</summary>
        Arc,

        /// <summary>The same, seen so that left is right.</summary>
        ArcMirrored,

        /// <summary>Seen from above.</summary>
        Round,

        /// <summary>The inside of a bore, seen from above: hours go with the clock.</summary>
        Wall,
    }

    private static Lay? LayOf(string kind, ZoneFace face) =>
        face.Shape == FaceShape.Round && face.Columns == 12 ? Lay.Round
        : face.ColumnAxis == ZoneAxis.ShellArc ? (kind.EndsWith("lower", StringComparison.Ordinal) == (face.Id == "back") ? Lay.Arc : Lay.ArcMirrored)
        : face.Id == ZoneMaps.Wall ? Lay.Wall
        : kind == PartKinds.Piston || kind is PartKinds.Crankpin or PartKinds.MainJournal ? Lay.Outside
        : null;

    private static (int Row, int Column)? At(Lay lay, ZoneFace face, double facing, OnFace at)
    {
        if (lay == Lay.Round)
        {
            var from = new OnFace((2 * at.X) - 1, (2 * at.Y) - 1);
            // Clockwise from the top, as hours go.
            var turned = Math.Atan2(from.X, -from.Y) * 180 / Math.PI;
            return from.Length > 1 ? null : (RowAt(face, 1 - from.Length), Hour(facing + (turned / 30)));
        }

        var row = RowAt(face, at.Y);
        if (lay == Lay.Wall)
        {
            return (row, Hour(facing + (12 * at.X)));
        }

        if (lay == Lay.Outside)
        {
            var off = Math.Asin(Math.Clamp((2 * at.X) - 1, -1, 1)) * 180 / Math.PI;
            return Math.Abs(off) > SeenTo ? null : (row, Hour(facing - (off / 30)));
        }

        var across = lay == Lay.ArcMirrored ? 1 - at.X : at.X;
        var arc = Math.Acos(Math.Clamp(1 - (2 * across), -1, 1)) / Math.PI;
        return (row, 1 + Math.Min(face.Columns - 1, (int)(arc * face.Columns)));
    }

    private static int Hour(double hour) => (((int)Math.Round(hour) - 1 + 120) % 12) + 1;

    private static int RowAt(ZoneFace face, double down)
    {
        var (sum, all) = (0.0, face.Rows.Sum(r => r.Size));
        for (var row = 0; row < face.Rows.Count; row++)
        {
            sum += face.Rows[row].Size / all;
            if (down < sum)
            {
                return row;
            }
        }

        return face.Rows.Count - 1;
    }
}

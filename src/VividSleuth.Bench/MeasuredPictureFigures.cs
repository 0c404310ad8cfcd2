using System.Diagnostics;
using VividSleuth.Core.Pictures;
using VividSleuth.Store.Look;

namespace VividSleuth.Bench;

/// <summary>A photograph of twelve megapixels measured, from the file to the figure: time, and how much memory it takes at the most.</summary>
internal static class MeasuredPictureFigures
{
    public static void Run(Figures figures)
    {
        foreach (var (kind, what) in new[] { (SceneKind.Hatch, "hatch"), (SceneKind.Particles, "particles"), (SceneKind.Strip, "strip") })
        {
            // 2,200 × 1,800 at the usual size; 3,850 × 3,150 are twelve megapixels.
            var scene = DrawnScenes.Draw(kind, 7, small: 2200 / 3850.0);
            var file = PictureRaster.ToJpeg(scene.Picture);
            var points = scene.Points;
            var megapixels = scene.Picture.Width * (double)scene.Picture.Height / 1e6;
            scene = null;
            GC.Collect();
            GC.WaitForPendingFinalizers();
            using var here = Process.GetCurrentProcess();
            var before = here.WorkingSet64;
            var (most, done) = (before, false);
            var watch = new Thread(() =>
            {
                using var me = Process.GetCurrentProcess();
                while (!Volatile.Read(ref done))
                {
                    me.Refresh();
                    most = Math.Max(most, me.WorkingSet64);
                    Thread.Sleep(5);
                }
            });
            watch.Start();
            var ms = Figures.Median(() => Measure(file, kind, points), runs: 5);
            Volatile.Write(ref done, true);
            watch.Join();
            figures.AtMost("Pictures", $"{what} of {megapixels:0.0} megapixels, file to figure", ms, 2000, "ms");
            figures.AtMost("Pictures", $"{what}: memory at the most, beyond what was held", (most - before) / 1e6, 300, "MB");
        }
    }

    private static void Measure(byte[] file, SceneKind kind, IReadOnlyList<Spot> points)
    {
        var picture = PictureRaster.Of(file);
        var plane = PicturePlane.Of(CardFinder.Find(picture)[0], picture.Width, picture.Height);
        var task = kind switch
        {
            SceneKind.Hatch => PictureTask.Hatch,
            SceneKind.Particles => PictureTask.Particles,
            _ => PictureTask.Across,
        };
        PictureReckoner.Measure(picture, plane, task, points, 0, "bench");
    }
}

using VividSleuth.Core.Sounds;
using VividSleuth.Store.Arrival;

namespace VividSleuth.Bench;

/// <summary>A minute of an engine listened to, from the file to what was heard.</summary>
internal static class SoundFigures
{
    private static readonly int[] Order = [1, 5, 3, 6, 2, 4];

    public static void Run(Figures figures)
    {
        var firings = new Firings(720, [.. Order.Select((c, i) => new Firing([c], 120.0 * i))]);
        var file = SoundWave.Write(new DrawnEngine(firings, DrawnFault.OncePerCycle, 3, 7, Seconds: 60, Pickup: 1, Rate: 48_000).Draw());
        var told = Figures.Median(() => Listening.Listen(SoundWave.Read(file), firings, new ListenAsk(1500)), runs: 5);
        figures.AtMost("Sounds", "a minute at 48 kHz, speed told", told, 1000, "ms");
        var found = Figures.Median(() => Listening.Listen(SoundWave.Read(file), firings, new ListenAsk()), runs: 5);
        figures.AtMost("Sounds", "a minute at 48 kHz, speed found", found, 1000, "ms");
        var clamp = Figures.Median(() => Listening.Listen(SoundWave.Read(file), firings, new ListenAsk(1500, 1)), runs: 5);
        figures.AtMost("Sounds", "a minute at 48 kHz, by the clamp", clamp, 1000, "ms");
    }
}

using VividSleuth.Core.Sounds;

namespace VividSleuth.Core.Tests.Sounds;

/// <summary>What is heard at the breather of engines that are made up. Our own stand-in, no source.</summary>
public sealed class BreatherTests
{
    private static readonly Firings[] Engines =
    [
        DrawnSoundTests.Even(720, 1, 3, 4, 2),
        DrawnSoundTests.Even(720, 1, 5, 3, 6, 2, 4),
        DrawnSoundTests.Even(720, 1, 3, 2),
    ];

    private static (int Right, int Wrong, int Heard) Listen(int from, int count, double decibels)
    {
        var (right, wrong, heard) = (0, 0, 0);
        foreach (var seed in Enumerable.Range(from, count))
        {
            var firings = Engines[seed % Engines.Length];
            var bad = firings.At[seed / 3 % firings.At.Count].Cylinders[0];
            var engine = new DrawnEngine(firings, DrawnFault.Puffs, bad, seed, Rpm: 700 + (37 * seed % 900), Decibels: decibels, Pickup: 1);
            var told = Listening.Listen(engine.Draw(), firings, new ListenAsk(engine.Rpm, 1, For: ListenFor.Puffs));
            heard += told.Beat == NoiseBeat.Cycle ? 1 : 0;
            right += told.Whose is [var one] && one == bad ? 1 : 0;
            wrong += told.Whose.Count > 0 && !told.Whose.Contains(bad) ? 1 : 0;
        }

        return (right, wrong, heard);
    }

    [Fact]
    public void One_that_blows_by_puffs_once_a_cycle_and_is_named_or_not_told()
    {
        var (right, wrong, heard) = Listen(0, 36, 6);
        heard.ShouldBeGreaterThanOrEqualTo(34, $"heard {heard}, right {right}, wrong {wrong}");
        right.ShouldBeGreaterThanOrEqualTo(30, $"heard {heard}, right {right}, wrong {wrong}");
        wrong.ShouldBeLessThanOrEqualTo(1);
    }

    [Fact]
    public void Where_all_breathe_alike_no_puff_stands_out()
    {
        foreach (var seed in Enumerable.Range(0, 9))
        {
            var firings = Engines[seed % Engines.Length];
            var engine = new DrawnEngine(firings, DrawnFault.Sound, 1, seed, Rpm: 900 + (100 * seed), Decibels: 6, Pickup: 1);
            Listening
                .Listen(engine.Draw(), firings, new ListenAsk(engine.Rpm, 1, For: ListenFor.Puffs))
                .Beat.ShouldBe(NoiseBeat.None, $"seed {seed}");
        }
    }
}

namespace VividSleuth.Chaos;

/// <summary>Breaks one thing after the other, in an order that the seed gives.</summary>
internal sealed class Breaker(World world, Random chance)
{
    private static readonly TimeSpan[] Jumps =
    [
        TimeSpan.Zero,
        TimeSpan.Zero,
        TimeSpan.FromMinutes(5),
        TimeSpan.FromMinutes(-5),
        TimeSpan.FromHours(3),
        TimeSpan.FromHours(-3),
        TimeSpan.FromDays(2),
        TimeSpan.FromDays(20),
    ];

    private readonly SortedDictionary<string, int> _told = new(StringComparer.Ordinal);

    public int Times => _told.Values.Sum();

    public string Told => string.Join(", ", _told.Select(t => $"{t.Key} {t.Value}"));

    public async Task RunAsync(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            await Task.Delay(chance.Next(50, 700), CancellationToken.None);
            var i = chance.Next(World.Instances);
            var line = world.SomeLine();
            switch (chance.Next(41))
            {
                case < 14:
                    Note("lines cut");
                    line.Cut();
                    break;
                case < 26:
                    Note("bad line");
                    line.IsBad = true;
                    await Task.Delay(chance.Next(200, 1_500), CancellationToken.None);
                    line.IsBad = false;
                    break;
                case < 29:
                    Note("line stands still");
                    line.StandsStill = true;
                    await Task.Delay(chance.Next(200, 1_500), CancellationToken.None);
                    line.StandsStill = false;
                    break;
                case 29 or 30:
                    Note("instance killed");
                    world.KillInstance(i);
                    await Task.Delay(chance.Next(2_000), CancellationToken.None);
                    world.LetInstanceUp(i);
                    break;
                case < 33:
                    Note("instance stands still");
                    world.Pause(i);
                    await Task.Delay(chance.Next(300, 3_000), CancellationToken.None);
                    world.Go(i);
                    break;
                case 33:
                    Note("database killed");
                    world.KillPostmaster();
                    break;
                case 34:
                    Note("process of the database killed");
                    world.KillBackend();
                    break;
                case < 38:
                    Note("clock jumped");
                    World.SetClock(i, Jumps[chance.Next(Jumps.Length)]);
                    break;
                case 38 when world.HasOwnDisk:
                    Note("disk full");
                    world.Fill();
                    await Task.Delay(chance.Next(500, 3_000), CancellationToken.None);
                    world.Empty();
                    break;
                case 39:
                    Note("clock of the database jumped");
                    World.SetDatabaseClock(Jumps[chance.Next(Jumps.Length)]);
                    break;
                default:
                    break;
            }
        }
    }

    private void Note(string what) => _told[what] = _told.GetValueOrDefault(what) + 1;
}

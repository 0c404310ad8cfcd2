using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;

namespace VividSleuth.Chaos;

/// <summary>Two instances on one PostgreSQL, the lines to them, the disk that the database lies on, and their clocks; all of it can break.</summary>
internal sealed class World(string folder, Random chance) : IAsyncDisposable
{
    public const int Instances = 2;

    private static readonly string Root = FindRoot();

    private readonly Process?[] _servers = new Process?[Instances];
    private readonly int[] _ports = [.. Enumerable.Range(0, Instances).Select(_ => FreePort())];
    private readonly bool[] _down = new bool[Instances];
    private readonly Lock _lock = new();
    private volatile bool _ends;
    private Task? _watch;

    /// <summary>One to each instance, and one more to the first, for the tabs.</summary>
    public Line[] Lines { get; private set; } = [];

    /// <summary>Now this line, now that; that of the tabs seldom, since a page is long in coming.</summary>
    public Line SomeLine() => chance.Next(10) == 0 ? Lines[^1] : Lines[chance.Next(Instances)];

    /// <summary>The folder of the database lies on a small disk of its own.</summary>
    public bool HasOwnDisk { get; } = Environment.GetEnvironmentVariable("CHAOS_DISK") == "1";

    /// <summary>What went wrong that nobody broke.</summary>
    public List<string> Told { get; } = [];

    /// <summary>Address of an instance without a line between.</summary>
    public Uri Straight(int instance) => new($"http://127.0.0.1:{_ports[instance]}");

    public async Task BeginAsync()
    {
        for (var i = 0; i < Instances; i++)
        {
            SetClock(i, TimeSpan.Zero);
            Start(i);
            await AnswersAsync(i, TimeSpan.FromSeconds(300));
        }

        Lines = [.. _ports.Append(_ports[0]).Select(p => new Line(p, new Random(chance.Next())))];
        _watch = Task.Run(WatchAsync);
    }

    /// <summary>Stops breaking things, and waits until all answers again.</summary>
    public async Task MendAsync()
    {
        Empty();
        foreach (var line in Lines)
        {
            (line.IsBad, line.StandsStill) = (false, false);
        }

        for (var i = 0; i < Instances; i++)
        {
            SetClock(i, TimeSpan.Zero);
            Signal(i, "CONT");
            lock (_lock)
            {
                _down[i] = false;
            }
        }

        for (var i = 0; i < Instances; i++)
        {
            await AnswersAsync(i, TimeSpan.FromSeconds(120));
        }
    }

    public void KillInstance(int instance)
    {
        lock (_lock)
        {
            _down[instance] = true;
            _servers[instance]?.Kill();
        }
    }

    /// <summary>It is started again by what watches over it.</summary>
    public void LetInstanceUp(int instance)
    {
        lock (_lock)
        {
            _down[instance] = false;
        }
    }

    public void Pause(int instance) => Signal(instance, "STOP");

    public void Go(int instance) => Signal(instance, "CONT");

    public void KillPostmaster() => Run("kill", "-9", Postmaster() ?? "0");

    /// <summary>One server process of the database, which then ends all others and recovers.</summary>
    public void KillBackend()
    {
        if (
            Postmaster() is { } postmaster
            && Run("pgrep", "-P", postmaster).Split('\n', StringSplitOptions.RemoveEmptyEntries) is { Length: > 0 } backends
        )
        {
            Run("kill", "-9", backends[chance.Next(backends.Length)]);
        }
    }

    public void Fill() => Run("dd", "if=/dev/zero", $"of={Filler}", "bs=1M", "status=none");

    public void Empty() => File.Delete(Filler);

    public static void SetClock(int instance, TimeSpan ahead) =>
        File.WriteAllText(Clock(instance), ((long)ahead.TotalSeconds).ToString(CultureInfo.InvariantCulture));

    /// <summary>Read by libfaketime, under which ./chaos starts PostgreSQL.</summary>
    public static void SetDatabaseClock(TimeSpan ahead) =>
        File.WriteAllText(
            Environment.GetEnvironmentVariable("CHAOS_PG_CLOCK")!,
            ((long)ahead.TotalSeconds).ToString("+0;-0;+0", CultureInfo.InvariantCulture)
        );

    public async ValueTask DisposeAsync()
    {
        _ends = true;
        await (_watch ?? Task.CompletedTask);
        foreach (var line in Lines)
        {
            await line.DisposeAsync();
        }

        foreach (var server in _servers)
        {
            server?.Kill();
            server?.Dispose();
        }
    }

    private string Filler => Path.Combine(folder, "filler");

    private static string Clock(int instance) => Path.Combine(Environment.GetEnvironmentVariable("CHAOS_WORK")!, $"clock{instance}");

    private string? Postmaster()
    {
        try
        {
            return File.ReadLines(Path.Combine(folder, "pg/postmaster.pid")).FirstOrDefault();
        }
        catch (IOException)
        {
            return null;
        }
    }

    /// <summary>What ./start and systemd do: an instance that died is started again, and PostgreSQL is brought back.</summary>
    private async Task WatchAsync()
    {
        while (!_ends)
        {
            for (var i = 0; i < Instances; i++)
            {
                lock (_lock)
                {
                    if (!_ends && !_down[i] && _servers[i] is not { HasExited: false })
                    {
                        Start(i);
                    }
                }
            }

            Run("bash", "-c", $". scripts/lib.sh; pg_running '{folder}' || pg_start '{folder}' $CHAOS_PG_OPTIONS");
            await Task.Delay(500);
        }
    }

    private void Start(int i)
    {
        var start = new ProcessStartInfo("dotnet")
        {
            WorkingDirectory = Root,
            RedirectStandardError = true,
            UseShellExecute = false,
            RedirectStandardOutput = true,
            ArgumentList =
            {
                "src/VividSleuth.Server/bin/Release/net10.0/VividSleuth.Server.dll",
                "--urls",
                Straight(i).ToString(),
                "--contentRoot",
                Path.Combine(Root, "src/VividSleuth.Server"),
                "--demo",
                Path.Combine(Root, "demo/cases"),
            },
            Environment =
            {
                ["Logging__LogLevel__Default"] = "None",
                ["Logging__LogLevel__Microsoft.AspNetCore.Diagnostics.ExceptionHandlerMiddleware"] = "Error",
            },
        };
        start.Environment[WrongClock.Variable] = Clock(i);
        start.Environment["ASPNETCORE_HOSTINGSTARTUPASSEMBLIES"] = typeof(WrongClock).Assembly.GetName().Name;
        start.Environment["DOTNET_STARTUP_HOOKS"] = typeof(WrongClock).Assembly.Location;

        _servers[i]?.Dispose();
        var server = Process.Start(start)!;
        server.OutputDataReceived += Hear;
        server.ErrorDataReceived += Hear;
        server.BeginOutputReadLine();
        server.BeginErrorReadLine();
        _servers[i] = server;
    }

    /// <summary>An error that the program did not foresee is a fault of the program, whatever was broken.</summary>
    private void Hear(object sender, DataReceivedEventArgs line)
    {
        if (line.Data is { } said && said.Contains("ExceptionHandlerMiddleware", StringComparison.Ordinal))
        {
            lock (Told)
            {
                Told.Add(said);
            }
        }
    }

    private async Task AnswersAsync(int i, TimeSpan within)
    {
        using var client = new HttpClient { BaseAddress = Straight(i), Timeout = TimeSpan.FromSeconds(5) };
        for (var began = Stopwatch.GetTimestamp(); Stopwatch.GetElapsedTime(began) < within; await Task.Delay(200))
        {
            try
            {
                if ((await client.GetAsync("/health/ready")).IsSuccessStatusCode)
                {
                    return;
                }
            }
            catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
            {
                // Not yet.
            }
        }

        throw new TimeoutException($"Instance {i} does not answer {within.TotalSeconds} s after all was mended.");
    }

    private void Signal(int i, string signal)
    {
        lock (_lock)
        {
            if (_servers[i] is { HasExited: false } server)
            {
                Run("kill", $"-{signal}", $"{server.Id}");
            }
        }
    }

    private static string Run(string program, params string[] args)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, args)
            {
                WorkingDirectory = Root,
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                UseShellExecute = false,
            }
        )!;
        var said = process.StandardOutput.ReadToEndAsync();
        process.StandardError.ReadToEnd();
        process.WaitForExit();
        return said.Result;
    }

    private static int FreePort()
    {
        using var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        return ((IPEndPoint)probe.LocalEndpoint).Port;
    }

    private static string FindRoot()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(at.FullName, "VividSleuth.slnx")))
        {
            at = at.Parent!;
        }

        return at.FullName;
    }
}

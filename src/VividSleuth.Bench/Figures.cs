using System.Diagnostics;
using System.Globalization;
using VividSleuth.Core.Measures;

namespace VividSleuth.Bench;

/// <summary>The table that ./bench prints: what was measured, what was aimed at, and whether it holds.</summary>
internal sealed class Figures
{
    private readonly List<(string Room, string What, string Measured, string Aim, bool? Holds)> _rows = [];

    public bool Hold => _rows.TrueForAll(r => r.Holds != false);

    /// <summary>A figure that must not be above its aim.</summary>
    public void AtMost(string room, string what, double measured, double aim, string unit) =>
        Add(room, what, Told(measured, unit), "≤ " + Told(aim, unit), measured <= aim);

    /// <summary>A figure that is only told.</summary>
    public void Tell(string room, string what, string measured) => Add(room, what, measured, "", null);

    /// <summary>Each figure is told as it comes too, so that a run that is broken off has told something.</summary>
    private void Add(string room, string what, string measured, string aim, bool? holds)
    {
        _rows.Add((room, what, measured, aim, holds));
        Console.Error.WriteLine($"{room}: {what}: {measured} {aim}");
    }

    public void Print(TextWriter output)
    {
        output.WriteLine($"{"room", -10}{"what", -62}{"measured", 14}{"aim", 14}");
        foreach (var row in _rows)
        {
            var holds = row.Holds switch
            {
                true => "  holds",
                false => "  MISSED",
                null => "",
            };
            output.WriteLine($"{row.Room, -10}{row.What, -62}{row.Measured, 14}{row.Aim, 14}{holds}");
        }
    }

    /// <summary>Median time in milliseconds of one run, after a second of warming up: the compiler optimises what runs often.</summary>
    public static double Median(Action run, int runs = 15) => Times(run, runs)[runs / 2];

    /// <summary>Time in milliseconds of the slowest run, after the same.</summary>
    public static double Worst(Action run, int runs = 30) => Times(run, runs)[^1];

    /// <summary>In rising order.</summary>
    private static double[] Times(Action run, int runs)
    {
        var began = Stopwatch.GetTimestamp();
        do
        {
            run();
        } while (Stopwatch.GetElapsedTime(began).TotalSeconds < 1);

        var times = new double[runs];
        for (var i = 0; i < runs; i++)
        {
            var start = Stopwatch.GetTimestamp();
            run();
            times[i] = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        }

        Array.Sort(times);
        return times;
    }

    /// <summary>Median of two things measured in turns, so that a busy moment of the machine meets both.</summary>
    public static async Task<(double First, double Second)> InTurnsAsync(Func<Task> first, Func<Task> second, int runs = 41, int warm = 60)
    {
        var (a, b) = (new List<double>(), new List<double>());
        for (var i = 0; i < runs + warm; i++)
        {
            foreach (var (run, times) in new[] { (first, a), (second, b) })
            {
                var start = Stopwatch.GetTimestamp();
                await run();
                times.Add(Stopwatch.GetElapsedTime(start).TotalMilliseconds);
            }
        }

        return (Middle(a), Middle(b));

        double Middle(List<double> times) => times.Skip(warm).Order().ElementAt(runs / 2);
    }

    private static string Told(double value, string unit) =>
        string.Create(CultureInfo.InvariantCulture, $"{value.ToString(value < 10 ? "0.00" : "0", CultureInfo.InvariantCulture)} {unit}");
}

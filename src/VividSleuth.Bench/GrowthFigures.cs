using System.Diagnostics;
using System.Globalization;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Bench;

/// <summary>How long an answer takes on large engines, how that grows, and what it saves over trying all scenarios.</summary>
internal static class GrowthFigures
{
    private const int Signs = 400;

    public static void Run(Figures figures)
    {
        var six = CaseFile.FromJson(File.ReadAllText(Demo.Six)).Case.Layout;
        var all = KnowledgeBase.BuiltIn;
        var ninety = Of(90);
        Time(figures, Drawn(six, 16, Signs, ninety), ninety, "16 cylinders, 90 causes", 150);
        Grows(figures, "cylinders", [1, 2, 4, 8, 12, 16, 24], n => Milliseconds(Drawn(six, n, Signs, all), all));
        Grows(figures, "signs", [100, 200, 400, 800, 1600], n => Milliseconds(Drawn(six, 16, n, all), all));
        Grows(
            figures,
            "causes",
            [16, 32, 64, all.Causes.Count],
            n =>
            {
                var some = Of(n);
                return Milliseconds(Drawn(six, 16, Signs, some), some);
            }
        );
        Memory(figures, Drawn(six, 16, Signs, all));
        Enumeration(figures);
    }

    /// <summary>What ships with only some of its causes, spread over all families.</summary>
    private static KnowledgeBase Of(int causes)
    {
        var all = KnowledgeBase.BuiltIn.Causes;
        // Read apart from what ships, since what is left out is no longer spoken of.
        var some = CauseFile.Read("some.yaml", CauseFile.Write(Enumerable.Range(0, causes).Select(i => all[i * all.Count / causes])));
        var left = some.Select(c => c.Id).ToHashSet(StringComparer.Ordinal);
        foreach (var cause in some)
        {
            cause.Brings.RemoveAll(b => !left.Contains(b.Cause));
            cause.KindOf = left.Contains(cause.KindOf) ? cause.KindOf : "";
        }

        return CheckedKnowledge.Load(
            KnowledgeBase
                .ShippedFiles()
                .Where(f => !f.Name.Contains("/causes/", StringComparison.Ordinal))
                .Append(("knowledge/causes/some.yaml", CauseFile.Write(some)))
        );
    }

    private static EngineCase Drawn(EngineLayout six, int cylinders, int signs, KnowledgeBase knowledge)
    {
        var layout =
            cylinders == 1
                ? six with
                {
                    Arrangement = Arrangement.Single,
                    Cylinders = 1,
                    FiringOrder = [1],
                }
                : six with
                {
                    Cylinders = cylinders,
                    FiringOrder = [.. Enumerable.Range(1, cylinders)],
                };
        var drawn = Enumerable.Range(1, 80).Select(s => DrawnCase.Draw(layout, knowledge, s)).First(d => d.Causes.Count > 0);
        var every = drawn.Signs.ToArray();
        new Random(7).Shuffle(every);
        return new EngineCase
        {
            Id = Guid.CreateVersion7(),
            Layout = layout,
            Findings = [.. every.Take(signs).Select(s => drawn.Found(s.Sign, s.Place))],
        };
    }

    private static double Milliseconds(EngineCase engineCase, KnowledgeBase knowledge)
    {
        var table = new AddressTable(Engine.From(engineCase.Layout));
        return Figures.Median(() => Tracer.Answer(engineCase.TraceLog(), table, knowledge, []), runs: 9);
    }

    private static void Time(Figures figures, EngineCase engineCase, KnowledgeBase knowledge, string what, double aim) =>
        figures.AtMost(
            "Trace",
            $"answer with next checks, {what}, {engineCase.Findings.Count} signs",
            Milliseconds(engineCase, knowledge),
            aim,
            "ms"
        );

    /// <summary>
    /// Growth from the middle of a row to its end, over that of n log n. Below the middle the fixed cost of laying the causes out hides it.
    /// </summary>
    private static void Grows(Figures figures, string what, int[] sizes, Func<int, double> milliseconds)
    {
        var times = sizes.Select(milliseconds).ToArray();
        figures.Tell(
            "Trace",
            $"answer by {what} {string.Join(", ", sizes)}",
            $"{string.Join(", ", times.Select(t => t.ToString("0", CultureInfo.InvariantCulture)))} ms"
        );
        var from = sizes.Length / 2;
        var allowed = sizes[^1] * Math.Log(sizes[^1]) / (sizes[from] * Math.Log(sizes[from]));
        figures.AtMost("Trace", $"growth from {sizes[from]} to {sizes[^1]} {what}, over n log n", times[^1] / times[from] / allowed, 1.25, "times");
    }

    /// <summary>Largest memory of the command line on the large engine, runtime and knowledge and all.</summary>
    private static void Memory(Figures figures, EngineCase engineCase)
    {
        var file = Path.Combine(Path.GetTempPath(), $"sleuth-bench-{Environment.ProcessId}.json");
        // In a file only what a person can have seen; what comes of figures is no finding.
        engineCase.Findings.RemoveAll(f => KnowledgeBase.BuiltIn.Sign(f.Sign)!.Measured);
        File.WriteAllText(file, new CaseFile { Case = engineCase }.ToJson());
        try
        {
            var dll = Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../VividSleuth.Cli/bin/Release/net10.0/sleuth.dll"));
            using var process = Process.Start(
                new ProcessStartInfo("dotnet", [dll, "trace", file, "--json"]) { RedirectStandardOutput = true, UseShellExecute = false }
            )!;
            long most = 0;
            var reading = process.StandardOutput.ReadToEndAsync();
            while (!process.HasExited)
            {
                process.Refresh();
                try
                {
                    most = Math.Max(most, process.PeakWorkingSet64);
                }
                catch (InvalidOperationException)
                {
                    // It ended between the two lines.
                }

                Thread.Sleep(5);
            }

            if (process.ExitCode != 0 || reading.Result.Length == 0)
            {
                throw new InvalidOperationException("sleuth trace did not answer.");
            }

            figures.AtMost("Trace", "memory of sleuth trace, 16 cylinders, 400 signs", most / 1048576.0, 200, "MB");
        }
        finally
        {
            File.Delete(file);
        }
    }

    /// <summary>One component of twenty hypotheses that all touch all of its signs, against trying every scenario.</summary>
    private static void Enumeration(Figures figures)
    {
        const int Hypotheses = 20;
        var random = new Random(3);
        var signs = Enumerable.Range(0, 10).Select(_ => NetSign.Present(0.05)).ToArray();
        var net = new CausalNet(
            [.. Enumerable.Range(0, Hypotheses).Select(_ => 0.01 + (0.1 * random.NextDouble()))],
            signs,
            [
                .. Enumerable
                    .Range(0, Hypotheses)
                    .Select(_ => (IReadOnlyList<NetLink>)[.. signs.Select((_, s) => new NetLink(s, random.NextDouble() * 0.9))]),
            ]
        );
        var solved = Figures.Median(() => ScenarioSearch.Solve(net), runs: 5);
        var start = Stopwatch.GetTimestamp();
        var all = All(net);
        var tried = Stopwatch.GetElapsedTime(start).TotalMilliseconds;
        var off = Enumerable.Range(0, Hypotheses).Max(h => Math.Abs(all[h] - ScenarioSearch.Solve(net).Probability[h]));
        figures.Tell("Trace", "20 hypotheses, 10 signs: solved, all 2^20 tried, furthest off", $"{solved:0.0} ms, {tried:0} ms, {off:0.0e0}");
        figures.AtMost("Trace", "solved over all tried", solved / tried, 0.1, "times");
    }

    private static double[] All(CausalNet net)
    {
        var n = net.Odds.Count;
        var mass = new double[n];
        var total = 0.0;
        var q = new double[net.Signs.Count];
        for (var set = 0; set < 1 << n; set++)
        {
            var weight = 1.0;
            Array.Fill(q, 1);
            for (var h = 0; h < n; h++)
            {
                if ((set >> h & 1) == 1)
                {
                    weight *= net.Odds[h];
                    foreach (var link in net.Links[h])
                    {
                        q[link.Sign] *= 1 - link.Weight;
                    }
                }
            }

            for (var s = 0; s < q.Length; s++)
            {
                weight *= net.Signs[s].Likelihood(q[s]);
            }

            total += weight;
            for (var h = 0; h < n; h++)
            {
                mass[h] += (set >> h & 1) == 1 ? weight : 0;
            }
        }

        return [.. mass.Select(m => m / total)];
    }
}

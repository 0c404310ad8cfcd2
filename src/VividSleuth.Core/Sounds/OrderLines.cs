using System.Numerics;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.IntegralTransforms;

namespace VividSleuth.Core.Sounds;

/// <summary>Something that repeats so many times a turn, and is no part of the cycle.</summary>
/// <param name="Order">Per turn of the crank.</param>
/// <param name="Over">Its power over what is usual about it.</param>
/// <param name="Chance">That it is there at all.</param>
/// <param name="Evidence">Nepers by which noise alone would have to be unlikely.</param>
/// <param name="Known">Index of the order that was named beforehand and that it is; null where it is none.</param>
/// <param name="Times">Which multiple of that.</param>
public sealed record OrderLine(double Order, double Over, double Chance, double Evidence, int? Known, int Times);

/// <summary>An order spectrum: how much of what is heard repeats how many times a turn.</summary>
/// <param name="Orders">Per turn of the crank.</param>
/// <param name="Levels">Amplitude of the envelope, as a share of its mean.</param>
public sealed record OrderSpectrum(double[] Orders, double[] Levels);

/// <summary>
/// Order analysis of the envelope resampled to crank angle (computed order tracking, Fyfe and Munck, “Analysis of computed order tracking”, Mechanical
/// Systems and Signal Processing 11, 1997); spectra by averaged windowed blocks (Welch, 1967).
/// </summary>
public static class OrderLines
{
    /// <summary>Highest order that is looked at, per turn.</summary>
    public const double Highest = 14;

    // Cycles to a block: the longer, the finer the orders; a rolling bearing slips, and so no finer than that.
    private const int Cycles = 16;

    /// <summary>Values to a turn.</summary>
    public const int PerTurn = 64;

    // By how much rolling elements slip, as a share; common practice, no source.
    private const double Slip = 0.025;

    private const int MostTimes = 3;

    /// <summary>What repeats, in half orders and all between.</summary>
    public static OrderSpectrum Spectrum(IReadOnlyList<float[]> bands, int turns)
    {
        var (power, _) = Power([.. bands.Select(Shares)], turns);
        return new OrderSpectrum([.. power.Select((_, k) => OrderOf(k, turns))], [.. power.Select(p => Math.Sqrt(p))]);
    }

    /// <summary>Lines that are no multiple of the cycle, the surest first: what the cycle itself repeats is taken out before.</summary>
    /// <param name="known">Orders named beforehand, such as those of a rolling bearing by its geometry.</param>
    public static IReadOnlyList<OrderLine> Apart(IReadOnlyList<float[]> bands, int turns, IReadOnlyList<double> known)
    {
        var (power, blocks) = Power([.. bands.Select(Shares).Select(b => WithoutTheCycle(b, PerTurn * turns))], turns);
        // Half of the next block is of this one, and what one band hears its neighbour hears too, so they tell less than as many would.
        var free = Math.Max(1, 0.6 * blocks * Math.Max(1, bands.Count / 2.0));
        var lines = new List<OrderLine>();
        for (var k = 4; k < power.Length - 4; k++)
        {
            var fromCycle = Math.Abs(k - (Cycles * Math.Round((double)k / Cycles)));
            if (fromCycle < 3 || power[k] < power[k - 1] || power[k] <= power[k + 1])
            {
                continue;
            }

            var over = power[k] / Usual(power, k);
            // The mean of so many exponential powers is Gamma (Welch).
            var chance = Math.Pow(Gamma.CDF(free, free, over), power.Length / 2.0);
            var (d, near) = (0.0, power[k - 1] - (2 * power[k]) + power[k + 1]);
            if (near < 0)
            {
                d = 0.5 * (power[k - 1] - power[k + 1]) / near;
            }

            var order = OrderOf(k + d, turns);
            var (index, times) = Named(order, known);
            lines.Add(new OrderLine(order, over, chance, free * (over - 1 - Math.Log(over)), index, times));
        }

        return [.. lines.OrderByDescending(l => l.Over)];
    }

    private static double OrderOf(double k, int turns) => k / Cycles / turns;

    private static (int? Index, int Times) Named(double order, IReadOnlyList<double> known)
    {
        for (var times = 1; times <= MostTimes; times++)
        {
            for (var i = 0; i < known.Count; i++)
            {
                if (Math.Abs(order - (times * known[i])) < Slip * times * known[i])
                {
                    return (i, times);
                }
            }
        }

        return (null, 0);
    }

    private static float[] Shares(float[] of)
    {
        var mean = of.Length == 0 ? 1 : Math.Max(1e-12f, of.Average());
        return [.. of.Select(v => Math.Min(12, v / mean) - 1)];
    }

    private static float[] WithoutTheCycle(float[] of, int perCycle)
    {
        var mean = new double[perCycle];
        var cycles = of.Length / perCycle;
        for (var i = 0; i < cycles * perCycle; i++)
        {
            mean[i % perCycle] += (double)of[i] / cycles;
        }

        return [.. of.Select((v, i) => (float)(v - mean[i % perCycle]))];
    }

    /// <summary>Of each order the mean power of all blocks and bands.</summary>
    private static (double[] Power, int Blocks) Power(IReadOnlyList<float[]> bands, int turns)
    {
        var block = Cycles * PerTurn * turns;
        var count = (int)(Highest * Cycles * turns);
        var power = new double[count];
        var window = new double[block];
        var sum = 0.0;
        for (var i = 0; i < block; i++)
        {
            window[i] = 0.5 - (0.5 * Math.Cos(2 * Math.PI * i / block));
            sum += window[i];
        }

        var blocks = bands.Count == 0 || bands[0].Length < block ? 0 : ((bands[0].Length - block) / (block / 2)) + 1;
        var each = bands
            .AsParallel()
            .AsOrdered()
            .Select(band =>
            {
                var of = new double[count];
                var buffer = new Complex32[block];
                for (var from = 0; from + block <= band.Length; from += block / 2)
                {
                    for (var i = 0; i < block; i++)
                    {
                        buffer[i] = new Complex32((float)(band[from + i] * window[i]), 0);
                    }

                    Fourier.Forward(buffer, FourierOptions.NoScaling);
                    for (var k = 0; k < count; k++)
                    {
                        of[k] += buffer[k].MagnitudeSquared * 4 / sum / sum;
                    }
                }

                return of;
            })
            .ToArray();
        var times = Math.Max(1, blocks * bands.Count);
        return ([.. power.Select((_, k) => each.Sum(e => e[k]) / times)], blocks);
    }

    private static double Usual(double[] power, int k)
    {
        const int Half = 40;
        var about = power[Math.Max(0, k - Half)..Math.Min(power.Length, k + Half)];
        Array.Sort(about);
        return Math.Max(1e-15, about[about.Length / 2]);
    }
}

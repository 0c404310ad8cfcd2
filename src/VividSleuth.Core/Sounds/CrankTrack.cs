using System.Numerics;
using MathNet.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace VividSleuth.Core.Sounds;

/// <summary>Where the turning of the crank was taken from.</summary>
public enum TurnedBy
{
    /// <summary>Found from the rhythm of the firings.</summary>
    Rhythm,

    /// <summary>A clamp on the line of one cylinder, on the second channel: its angle is known.</summary>
    Pickup,
}

/// <summary>How the crank turned while it was heard: what computed order tracking needs in the place of a shaft encoder.</summary>
/// <param name="Rate">Values per second.</param>
/// <param name="Cycles">Cycles turned, from the beginning of the recording; where it was found from the rhythm, from any angle.</param>
/// <param name="Rpm">In the middle of each second, revolutions per minute.</param>
/// <param name="Clear">By how much the rhythm stands above what lies between, in nepers of power; 0 where nothing does.</param>
/// <param name="Rival">The other speed that would explain the rhythm best; null where none comes near.</param>
/// <param name="MarkCylinders">By a clamp: those that may be at the mark; of a spark at every turn two.</param>
public sealed record CrankTrack(
    TurnedBy By,
    double Rate,
    double[] Cycles,
    IReadOnlyList<double> Rpm,
    double Clear,
    double? Rival,
    IReadOnlyList<int> MarkCylinders
)
{
    public const double LeastRpm = 250;

    public const double MostRpm = 9000;

    // The first of the rhythm's harmonics are enough to find it; more are only noise.
    private const int Harmonics = 6;

    private const double Grid = 0.004;

    /// <summary>Of the envelopes’ rate what is enough for a rhythm: every so-manieth value.</summary>
    public const int Every = 4;

    private const int Window = 1024;

    private const int Padded = 4096;

    private const int Hop = 256;

    // Of a speed told or read, how far it may be off.
    private const double ToldWithin = 0.15;

    // A change of speed from one look to the next costs this much per step of the grid.
    private const double Change = 0.04;

    public double MeanRpm(int turns) => Cycles.Length < 2 ? 0 : (Cycles[^1] - Cycles[0]) * turns * 60 * Rate / (Cycles.Length - 1);

    /// <summary>An envelope at equal steps of crank angle, from the first whole cycle to the last.</summary>
    /// <param name="rate">Of the envelope, values per second.</param>
    /// <param name="perCycle">Steps to a cycle.</param>
    public float[] Resampled(float[] envelope, double rate, int perCycle)
    {
        var (first, last) = ((int)Math.Ceiling(Cycles[0]), (int)Math.Floor(Cycles[^1]));
        var even = new float[Math.Max(0, last - first) * perCycle];
        var at = 0;
        for (var i = 0; i < even.Length; i++)
        {
            var turned = first + ((double)i / perCycle);
            while (at < Cycles.Length - 2 && Cycles[at + 1] < turned)
            {
                at++;
            }

            var (a, b) = (Cycles[at], Cycles[at + 1]);
            var x = (at + (b > a ? Math.Clamp((turned - a) / (b - a), 0, 1) : 0)) * rate / Rate;
            var k = Math.Min((int)x, envelope.Length - 2);
            even[i] = envelope[k] + ((float)(x - k) * (envelope[k + 1] - envelope[k]));
        }

        return even;
    }

    /// <summary>Follows the crank by the rhythm of the firings.</summary>
    /// <param name="told">Speed that is known, in rpm; null where it is to be found.</param>
    public static CrankTrack ByRhythm(Envelopes envelopes, Firings firings, double? told)
    {
        var (beat, rate) = (Beat(envelopes.Of), envelopes.Rate / Every);
        // A speed that is known is only to be followed, by what any band repeats. One that is not is found low down, where a knock, which rings high and has
        // a rhythm of its own, is not heard.
        var looks = told is null ? Looks(Thinned(envelopes.Low), Roots) : Looks(beat, Above);
        var least = told * (1 - ToldWithin) ?? LeastRpm;
        var most = told * (1 + ToldWithin) ?? MostRpm;
        var candidates = (int)Math.Ceiling(Math.Log(most / least) / Grid) + 1;
        double RpmOf(double i) => least * Math.Exp(i * Grid);
        // What repeats in the sound is the pattern of the firings.
        double RhythmOf(double rpm) => rpm / 60 / firings.Turns * firings.Repeats;
        var harmonics = Harmonics * firings.At.Count / firings.Repeats;
        var highest = told is null ? 450 : 0.45 * rate;
        var rhythms = Enumerable.Range(0, candidates).Select(i => RhythmOf(RpmOf(i))).ToArray();
        var scores = looks
            .AsParallel()
            .AsOrdered()
            .Select(l => rhythms.Select(r => Comb(l, r, rate, harmonics, highest, told is not null)).ToArray())
            .ToArray();
        var (path, clear) = Path(scores);
        double? rival = null;
        if (told is null)
        {
            // A path of its own at a distance from the first, such as at half or twice the speed.
            var (other, mean) = Path([.. scores.Select((s, l) => s.Select((v, i) => Math.Abs(i - path[l]) * Grid < 0.1 ? -1 : v).ToArray())]);
            rival = mean > 0.65 * clear ? RpmOf(other[other.Length / 2]) : null;
        }

        var middle = path.Select(i => RpmOf(i)).ToArray();
        var cycles = Refined(beat, rate, Integrated(middle, rate, beat.Length, firings), firings);
        return new CrankTrack(TurnedBy.Rhythm, rate, cycles, EachSecond(cycles, rate, firings.Turns), clear, rival, []);
    }

    /// <summary>
    /// Follows the crank by a clamp at one cylinder: straight between its pulses. Of a four-stroke it may give one a cycle or, of a spark that is
    /// lost at the overlap, one a turn; which, the rhythm or the told speed says.
    /// </summary>
    /// <param name="rpm">Speed by the rhythm or as told.</param>
    /// <exception cref="ProblemException">The second channel holds no pulses that repeat at that speed.</exception>
    public static CrankTrack ByPickup(Recording recording, Firings firings, int cylinder, double rpm, double rate)
    {
        var pulses = Pulses(recording.Pickup!, recording.Rate);
        var gap = pulses.Count > 3 ? Median(pulses.Zip(pulses.Skip(1), (a, b) => b - a)) : 0;
        var perCycle = gap > 0 ? 60 * firings.Turns / rpm / gap : 0;
        var whole = Math.Round(perCycle);
        if (whole < 1 || whole > firings.Turns || Math.Abs(perCycle - whole) > 0.2 * whole)
        {
            throw new ProblemException([
                pulses.Count <= 3
                    ? Problem.Of("pickup", "sounds.no-pulses")
                    : Problem.Of(
                        "pickup",
                        "sounds.pulses-do-not-fit",
                        ("pulses", new Measures.Number(60 / gap, 0)),
                        ("rpm", new Measures.Number(rpm, 0))
                    ),
            ]);
        }

        var angle = firings.Of(cylinder).Angle / firings.Degrees;
        var at = new List<(double Time, double Cycles)>();
        var turned = angle;
        for (var i = 0; i < pulses.Count; i++)
        {
            // A pulse that was missed leaves a gap of two, one too many is left out.
            var passed = i == 0 ? 0 : Math.Round((pulses[i] - at[^1].Time) / gap);
            if (i == 0 || passed >= 1)
            {
                turned += passed / whole;
                at.Add((pulses[i], turned));
            }
        }

        var length = (int)(recording.Seconds * rate);
        var cycles = new double[length];
        var next = 1;
        for (var i = 0; i < length; i++)
        {
            var t = i / rate;
            while (next < at.Count - 1 && at[next].Time < t)
            {
                next++;
            }

            var (a, b) = (at[next - 1], at[next]);
            cycles[i] = a.Cycles + ((t - a.Time) / (b.Time - a.Time) * (b.Cycles - a.Cycles));
        }

        var marks = firings.Of(cylinder).Cylinders;
        if (whole == 2)
        {
            var other = firings.At.FirstOrDefault(f => Math.Abs(Math.Abs(f.Angle - firings.Of(cylinder).Angle) - 360) < 1);
            marks = [.. marks, .. other?.Cylinders ?? []];
        }

        return new CrankTrack(TurnedBy.Pickup, rate, cycles, EachSecond(cycles, rate, firings.Turns), double.PositiveInfinity, null, marks);
    }

    /// <summary>All bands together, each as loud as the others, at a rate that is enough for the rhythm.</summary>
    private static float[] Beat(IReadOnlyList<float[]> bands)
    {
        var length = bands.Count > 0 ? bands[0].Length / Every : 0;
        var beat = new float[length];
        foreach (var band in bands)
        {
            var small = Thinned(band);
            var (sum, squares) = (0.0, 0.0);
            foreach (var v in small)
            {
                sum += v;
                squares += v * v;
            }

            var mean = sum / length;
            var deviation = Math.Sqrt(Math.Max(1e-30, (squares / length) - (mean * mean)));
            for (var i = 0; i < length; i++)
            {
                // One slammed door is not to drown the rest.
                beat[i] += (float)Math.Min(6, (small[i] - mean) / deviation);
            }
        }

        return beat;
    }

    private static float[] Thinned(float[] of)
    {
        var thin = new float[of.Length / Every];
        for (var i = 0; i < thin.Length; i++)
        {
            thin[i] = (of[i * Every] + of[(i * Every) + 1] + of[(i * Every) + 2] + of[(i * Every) + 3]) / Every;
        }

        return thin;
    }

    /// <summary>Of each look what stands out, by frequency.</summary>
    private static double[][] Looks(float[] beat, Func<double[], double[]> standing)
    {
        var looks = new double[Math.Max(0, ((beat.Length - Window) / Hop) + 1)][];
        Parallel.For(
            0,
            beat.Length < Window ? 0 : looks.Length,
            () => new Complex32[Padded],
            (look, _, buffer) =>
            {
                Array.Clear(buffer);
                for (var i = 0; i < Window; i++)
                {
                    buffer[i] = new Complex32((float)(beat[(look * Hop) + i] * (0.5 - (0.5 * Math.Cos(2 * Math.PI * i / Window)))), 0);
                }

                Fourier.Forward(buffer, FourierOptions.NoScaling);
                looks[look] = standing([.. buffer.Take(Padded / 2).Select(b => b.MagnitudeSquared + 1e-20)]);
                return buffer;
            },
            _ => { }
        );
        return beat.Length < Window ? [] : looks;
    }

    /// <summary>Root of the amplitude, as a share of its mean: the loudest line is not all that counts, and a faint one does not count as much as a loud one.</summary>
    private static double[] Roots(double[] power)
    {
        var roots = power.Select(p => Math.Pow(p, 0.25)).ToArray();
        var mean = roots.Average();
        return [.. roots.Select(r => r / mean)];
    }

    /// <summary>Over the running mean of the logarithms; a mean of logarithms cares little for the lines in it.</summary>
    private static double[] Above(double[] power)
    {
        var log = power.Select(p => Math.Log(p)).ToArray();
        const int Half = 160;
        var sums = new double[log.Length + 1];
        for (var i = 0; i < log.Length; i++)
        {
            sums[i + 1] = sums[i] + log[i];
        }

        var above = new double[log.Length];
        for (var i = 0; i < log.Length; i++)
        {
            var (a, b) = (Math.Max(0, i - Half), Math.Min(log.Length, i + Half + 1));
            above[i] = Math.Clamp(log[i] - ((sums[b] - sums[a]) / (b - a)), -1, 6);
        }

        return above;
    }

    /// <summary>How far a rhythm's harmonics stand above what lies between them, at halves, thirds and quarters: half the speed explains all that the whole does.</summary>
    private static double Comb(double[] above, double hertz, double rate, int harmonics, double highest, bool alone)
    {
        double At(double f)
        {
            var x = f / rate * Padded;
            var i = (int)x;
            return i + 1 < above.Length ? above[i] + ((x - i) * (above[i + 1] - above[i])) : 0;
        }

        double on = 0,
            halves = 0,
            thirds = 0,
            quarters = 0;
        var n = Math.Min(harmonics, (int)(highest / hertz));
        for (var m = 1; m <= n; m++)
        {
            on += At(m * hertz);
            halves += At((m - 0.5) * hertz);
            thirds += (At((m - (1.0 / 3)) * hertz) + At((m - (2.0 / 3)) * hertz)) / 2;
            quarters += (At((m - 0.25) * hertz) + At((m - 0.75) * hertz)) / 2;
        }

        return n == 0 ? -1
            : alone ? on / n
            : (on - Math.Max(halves, Math.Max(thirds, quarters))) / n;
    }

    /// <summary>The way through all looks that is best as a whole, and its mean (dynamic programming, Viterbi).</summary>
    private static (int[] Path, double Mean) Path(double[][] scores)
    {
        const int Reach = 12;
        if (scores.Length == 0)
        {
            return ([], 0);
        }

        var n = scores[0].Length;
        var from = new int[scores.Length][];
        var best = scores[0];
        for (var l = 1; l < scores.Length; l++)
        {
            var next = new double[n];
            from[l] = new int[n];
            for (var i = 0; i < n; i++)
            {
                var (top, at) = (double.NegativeInfinity, i);
                for (var j = Math.Max(0, i - Reach); j <= Math.Min(n - 1, i + Reach); j++)
                {
                    var v = best[j] - (Change * Math.Abs(i - j));
                    if (v > top)
                    {
                        (top, at) = (v, j);
                    }
                }

                next[i] = top + scores[l][i];
                from[l][i] = at;
            }

            best = next;
        }

        var path = new int[scores.Length];
        path[^1] = Array.IndexOf(best, best.Max());
        for (var l = scores.Length - 1; l > 0; l--)
        {
            path[l - 1] = from[l][path[l]];
        }

        return (path, path.Select((i, l) => scores[l][i]).Average());
    }

    /// <summary>Cycles turned, from the speed in the middle of each look.</summary>
    private static double[] Integrated(double[] rpm, double rate, int length, Firings firings)
    {
        var cycles = new double[length];
        for (var i = 1; i < length; i++)
        {
            var x = Math.Clamp((i - (Window / 2.0)) / Hop, 0, Math.Max(0, rpm.Length - 1));
            var l = Math.Min((int)x, Math.Max(0, rpm.Length - 2));
            var here =
                rpm.Length == 0 ? 0
                : rpm.Length == 1 ? rpm[0]
                : rpm[l] + ((rpm[l + 1] - rpm[l]) * (x - l));
            cycles[i] = cycles[i - 1] + (here / 60 / firings.Turns / rate);
        }

        return cycles;
    }

    /// <summary>
    /// Takes out what the way found still lags or leads by: the phase of the rhythm's own harmonic, smoothed (Bonnardot and others, “Use of the
    /// acceleration signal of a gearbox in order to perform angular resampling”, Mechanical Systems and Signal Processing 19, 2005).
    /// </summary>
    private static double[] Refined(float[] beat, double rate, double[] cycles, Firings firings)
    {
        foreach (var (seconds, harmonics) in new[] { (0.5, 1), (0.35, 2), (0.25, 2) })
        {
            var k = Strongest(beat, cycles, firings, harmonics);
            var z = new Complex[beat.Length];
            for (var i = 0; i < beat.Length; i++)
            {
                z[i] = beat[i] * Complex.FromPolarCoordinates(1, -2 * Math.PI * k * cycles[i]);
            }

            var smooth = Smoothed(Smoothed(z, (int)(seconds * rate / 2)), (int)(seconds * rate / 2));
            var moved = new double[cycles.Length];
            double last = 0,
                turns = 0;
            for (var i = 0; i < cycles.Length; i++)
            {
                var phase = smooth[i].Phase / (2 * Math.PI);
                turns += i == 0 ? 0 : -Math.Round(phase - last);
                last = phase;
                moved[i] = cycles[i] + ((phase + turns) / k);
            }

            cycles = moved;
        }

        return cycles;
    }

    /// <summary>Harmonic of the cycle that stands out most among the first of the rhythm.</summary>
    private static int Strongest(float[] beat, double[] cycles, Firings firings, int harmonics)
    {
        // Of an uneven pattern any of the cycle's own may be the one that stands out.
        var even = firings.Repeats == firings.At.Count;
        return Enumerable
            .Range(1, even ? harmonics : 2 * firings.At.Count)
            .Select(m => even ? m * firings.Repeats : m)
            .MaxBy(k =>
            {
                var sum = Complex.Zero;
                for (var i = 0; i < beat.Length; i++)
                {
                    sum += beat[i] * Complex.FromPolarCoordinates(1, -2 * Math.PI * k * cycles[i]);
                }

                return sum.Magnitude;
            });
    }

    private static Complex[] Smoothed(Complex[] of, int half)
    {
        var smooth = new Complex[of.Length];
        var sum = Complex.Zero;
        for (var i = -half; i < of.Length; i++)
        {
            sum += i + half < of.Length ? of[i + half] : Complex.Zero;
            sum -= i - half - 1 >= 0 ? of[i - half - 1] : Complex.Zero;
            if (i >= 0)
            {
                smooth[i] = sum;
            }
        }

        return smooth;
    }

    private static List<double> EachSecond(double[] cycles, double rate, int turns)
    {
        var seconds = new List<double>();
        for (var from = 0; from + rate <= cycles.Length; from += (int)rate)
        {
            seconds.Add((cycles[from + (int)rate - 1] - cycles[from]) * turns * 60 * rate / ((int)rate - 1));
        }

        return seconds;
    }

    /// <summary>When the clamp gave a pulse, in seconds: where it first rises over half of what its pulses reach.</summary>
    private static List<double> Pulses(float[] channel, int rate)
    {
        var size = channel.Select(Math.Abs).ToArray();
        var sorted = (float[])size.Clone();
        Array.Sort(sorted);
        // A pulse is short: what lies above all but a thousandth is its height, as long as the rest is well below.
        var (high, usual) = (sorted[(int)(0.9995 * (sorted.Length - 1))], sorted[sorted.Length / 2]);
        var pulses = new List<double>();
        if (high < 0.01 || high < 5 * usual)
        {
            return pulses;
        }

        var dead = rate / 200;
        for (var i = 0; i < size.Length; i++)
        {
            if (size[i] > high / 2)
            {
                pulses.Add((double)i / rate);
                i += dead;
            }
        }

        return pulses;
    }

    private static double Median(IEnumerable<double> of)
    {
        var sorted = of.Order().ToArray();
        return sorted[sorted.Length / 2];
    }
}

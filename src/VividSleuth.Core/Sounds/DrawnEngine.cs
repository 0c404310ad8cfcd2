namespace VividSleuth.Core.Sounds;

/// <summary>What is wrong with an engine that is heard.</summary>
public enum DrawnFault
{
    /// <summary>Nothing.</summary>
    Sound,

    /// <summary>A knock once a cycle, shortly after one cylinder has fired: a piston that slaps, a rod at its worst.</summary>
    OncePerCycle,

    /// <summary>A knock at every turn, near one cylinder’s upper dead centre.</summary>
    OncePerTurn,

    /// <summary>Two raps, one soon after the other, of one cylinder.</summary>
    DoubleRap,

    /// <summary>A mark on the outer ring of a rolling bearing, run over at an order that is no multiple of a half.</summary>
    Rolling,

    /// <summary>One cylinder does not fire.</summary>
    Misfire,

    /// <summary>Heard at the breather: one cylinder blows by its rings, and so puffs once a cycle.</summary>
    Puffs,
}

/// <summary>An engine that is made up to be listened to.</summary>
/// <param name="Rpm">At the beginning.</param>
/// <param name="ToRpm">At the end; of a run-up more.</param>
/// <param name="Decibels">How far the engine is above the noise about it, both as root mean squares.</param>
/// <param name="CutOut">Cylinder that is silenced; its knock falls to a fifth.</param>
/// <param name="Pickup">Cylinder at whose line a clamp sits; 0 without one.</param>
/// <param name="Order">Of the rolling bearing, per turn of the crank.</param>
/// <param name="Knock">How many times as loud as drawn the noise is: under load more, running light less.</param>
public sealed record DrawnEngine(
    Firings Firings,
    DrawnFault Fault,
    int Cylinder,
    int Seed,
    double Rpm = 1500,
    double? ToRpm = null,
    double Seconds = 8,
    double Decibels = 6,
    int CutOut = 0,
    int Pickup = 0,
    double Order = 3.585,
    int Rate = 44100,
    double Knock = 1
)
{
    private const double Wander = 0.008;

    private const double StillKnocks = 0.2;

    // At the breather, of what is heard beside the engine.
    private const double FiringThere = 0.3;

    // Of a sound cylinder beside the one that blows by.
    private const double SoundPuff = 0.2;

    private const double PuffFrom = 10;

    private const double PuffLasts = 90;

    /// <summary>Makes the recording: the stand-in for a microphone beside an engine. The same seed makes the same one.</summary>
    public Recording Draw()
    {
        var random = new Random(Seed);
        var length = (int)(Seconds * Rate);
        var cycles = CyclesOf(random, length);
        var sound = new float[length];
        var line = Pickup > 0 ? new float[length] : null;
        // Of the engine and not of this recording of it: the same with a cylinder cut out.
        var own = new Random((Seed * 31) + Cylinder);
        var strength = Firings.At.ToDictionary(a => a.Angle, _ => 1 + (0.1 * Normal(own)));
        var (ring, decay, loud, late) = (
            900 + (2400 * own.NextDouble()),
            0.002 + (0.002 * own.NextDouble()),
            Knock * (0.35 + (0.8 * own.NextDouble())),
            6 + (16 * own.NextDouble())
        );
        var advance = 10 + (12 * own.NextDouble());
        var start = cycles(0);
        var first = (int)Math.Floor(start) - 1;
        var at = new TimeOf(cycles, length);
        for (var cycle = first; at.Sample(cycle) is var begin && begin < length; cycle++)
        {
            foreach (var firing in Firings.At)
            {
                var silent = firing.Cylinders.Contains(CutOut) || (Fault == DrawnFault.Misfire && firing.Cylinders.Contains(Cylinder));
                var share = silent ? (firing.Cylinders.Count - 1.0) / firing.Cylinders.Count : 1;
                var power = strength[firing.Angle] * (1 + (0.15 * Normal(random))) * share;
                var there = Fault == DrawnFault.Puffs ? FiringThere : 1;
                Burst(sound, at.Sample(cycle + (firing.Angle / Firings.Degrees)), power * there, random);
                if (Fault == DrawnFault.Puffs)
                {
                    Puff(sound, cycle, at, firing, power * (firing.Cylinders.Contains(Cylinder) ? loud : SoundPuff * loud), random);
                }

                foreach (var tick in new[] { 150.0, 380 })
                {
                    Ring(sound, at.Sample(cycle + ((firing.Angle + tick) / Firings.Degrees)), 0.06 * (1 + (0.3 * Normal(random))), 5200, 0.001);
                }

                if (line is not null && firing.Cylinders.Contains(Pickup))
                {
                    Ring(line, at.Sample(cycle + ((firing.Angle - advance) / Firings.Degrees)), 0.9, 3000, 0.0004);
                }
            }

            Knocks(sound, cycle, at, random, ring, decay, late, loud * (CutOut == Cylinder ? StillKnocks : 1));
        }

        if (Fault == DrawnFault.Rolling)
        {
            Rolls(sound, at, start, random, loud);
        }

        Echo(sound);
        Noise(sound, random);
        return new Recording(sound, Rate, line);
    }

    /// <summary>Cycles turned at a sample, from a fraction of one at the beginning.</summary>
    private Func<double, double> CyclesOf(Random random, int length)
    {
        var every = Rate / 100;
        var turned = new double[(length / every) + 3];
        turned[0] = random.NextDouble();
        var off = 0.0;
        for (var i = 1; i < turned.Length; i++)
        {
            off = (0.98 * off) + (0.2 * Wander * Normal(random));
            var rpm = Rpm + (((ToRpm ?? Rpm) - Rpm) * i / turned.Length);
            turned[i] = turned[i - 1] + (rpm * (1 + off) / 60 / Firings.Turns * every / Rate);
        }

        return s =>
        {
            var i = Math.Clamp((int)Math.Floor(s / every), 0, turned.Length - 2);
            return turned[i] + ((turned[i + 1] - turned[i]) * ((s / every) - i));
        };
    }

    private void Knocks(float[] sound, int cycle, TimeOf at, Random random, double ring, double decay, double late, double loud)
    {
        if (Fault is not (DrawnFault.OncePerCycle or DrawnFault.OncePerTurn or DrawnFault.DoubleRap))
        {
            return;
        }

        double[] offsets = Fault switch
        {
            DrawnFault.OncePerTurn when Firings.Turns == 2 => [0, 360],
            DrawnFault.DoubleRap => [0, 40],
            _ => [0],
        };
        foreach (var offset in offsets)
        {
            var angle = Firings.Of(Cylinder).Angle + late + offset + (2 * Normal(random));
            var weaker = offset == 360 ? 0.85 : 1;
            Ring(sound, at.Sample(cycle + (angle / Firings.Degrees)), loud * weaker * Math.Max(0.2, 1 + (0.2 * Normal(random))), ring, decay);
        }
    }

    /// <summary>Gas past the rings for as long as the cylinder is under pressure.</summary>
    private void Puff(float[] sound, int cycle, TimeOf at, Firing firing, double loud, Random random)
    {
        var from = at.Sample(cycle + ((firing.Angle + PuffFrom) / Firings.Degrees));
        var to = at.Sample(cycle + ((firing.Angle + PuffFrom + PuffLasts) / Firings.Degrees));
        var low = 0.0;
        for (var i = 0; i < to - from; i++)
        {
            low += 0.2 * (Normal(random) - low);
            Add(sound, from + i, loud * Math.Pow(Math.Sin(Math.PI * i / (to - from)), 2) * low);
        }
    }

    private void Rolls(float[] sound, TimeOf at, double start, Random random, double loud)
    {
        var per = Order * Firings.Turns;
        for (var turned = start; at.Sample(turned) is var s && s < sound.Length; turned += (1 + (0.01 * Normal(random))) / per)
        {
            Ring(sound, s, 0.6 * loud * Math.Max(0.2, 1 + (0.2 * Normal(random))), 3800, 0.0015);
        }
    }

    private void Burst(float[] sound, double at, double power, Random random)
    {
        var length = (int)(0.06 * Rate);
        var low = 0.0;
        for (var i = 0; i < length; i++)
        {
            var t = (double)i / Rate;
            // Noise that has lost its highest part, and the thump of the pipe.
            low += 0.25 * (Normal(random) - low);
            Add(sound, at + i, power * ((0.7 * Math.Exp(-t / 0.014) * Math.Sin(2 * Math.PI * 85 * t)) + (0.9 * Math.Exp(-t / 0.005) * low)));
        }
    }

    private void Ring(float[] sound, double at, double loud, double hertz, double decay)
    {
        var length = (int)(8 * decay * Rate);
        for (var i = 0; i < length; i++)
        {
            var t = (double)i / Rate;
            Add(sound, at + i, loud * Math.Exp(-t / decay) * Math.Sin(2 * Math.PI * hertz * t));
        }
    }

    private static void Add(float[] sound, double at, double what)
    {
        var i = (int)Math.Round(at);
        if (i >= 0 && i < sound.Length)
        {
            sound[i] += (float)what;
        }
    }

    /// <summary>A wall not far away.</summary>
    private void Echo(float[] sound)
    {
        var later = (int)(0.009 * Rate);
        for (var i = sound.Length - 1; i >= later; i--)
        {
            sound[i] += 0.25f * sound[i - later];
        }
    }

    private void Noise(float[] sound, Random random)
    {
        var rms = Math.Sqrt(sound.Average(s => (double)s * s));
        var level = rms * Math.Pow(10, -Decibels / 20);
        double slow = 0;
        var most = 0f;
        for (var i = 0; i < sound.Length; i++)
        {
            slow += 0.05 * (Normal(random) - slow);
            // Half its power in the lowest octaves, as in a workshop.
            sound[i] += (float)(level * ((0.7071 * Normal(random)) + (0.7071 * 6.24 * slow)));
            most = Math.Max(most, Math.Abs(sound[i]));
        }

        for (var i = 0; i < sound.Length && most > 0; i++)
        {
            sound[i] *= 0.8f / most;
        }
    }

    private static double Normal(Random random) => MathNet.Numerics.Distributions.Normal.Sample(random, 0, 1);

    /// <summary>At which sample so many cycles have been turned.</summary>
    private sealed class TimeOf(Func<double, double> cycles, int length)
    {
        public double Sample(double turned)
        {
            double from = -length,
                to = 2.0 * length;
            for (var i = 0; i < 50 && to - from > 0.01; i++)
            {
                var middle = (from + to) / 2;
                (from, to) = cycles(middle) < turned ? (middle, to) : (from, middle);
            }

            return to;
        }
    }
}

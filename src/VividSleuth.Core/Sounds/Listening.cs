using MathNet.Numerics;
using MathNet.Numerics.IntegralTransforms;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Sounds;

/// <summary>What a cylinder is listened to for.</summary>
public enum ListenFor
{
    /// <summary>Something that strikes: short, and soon after the firing.</summary>
    Knocks,

    /// <summary>Gas that comes out of the breather while the cylinder is under pressure: long, and somewhat later by the way through the pipe.</summary>
    Puffs,
}

/// <summary>What is told of a recording before it is listened to.</summary>
/// <param name="Rpm">Speed that somebody typed or that was read; null where it is to be found.</param>
/// <param name="Pickup">Cylinder at whose line the clamp of the second channel sits; null without one.</param>
/// <param name="CutOut">Cylinder that is silenced; null where all run.</param>
/// <param name="Orders">Orders to look for by name, per turn.</param>
/// <param name="For">What is sought.</param>
public sealed record ListenAsk(
    double? Rpm = null,
    int? Pickup = null,
    int? CutOut = null,
    IReadOnlyList<double>? Orders = null,
    ListenFor For = ListenFor.Knocks
);

/// <summary>What the rhythm of a noise is.</summary>
public enum NoiseBeat
{
    /// <summary>None that stands out.</summary>
    None,

    /// <summary>Once a cycle: of a four-stroke at half the crank’s speed, order ½.</summary>
    Cycle,

    /// <summary>At every turn: order 1.</summary>
    Turn,

    /// <summary>A noise stands out, and whether once a cycle or at every turn cannot be told.</summary>
    Either,

    /// <summary>At an order that is no multiple of the cycle’s.</summary>
    Apart,
}

/// <summary>What may make a listener doubt.</summary>
public enum SoundDoubt
{
    /// <summary>Parts of it are cut off at the top: too loud for the microphone.</summary>
    Clipped,

    /// <summary>Recorded at a rate that loses the higher bands.</summary>
    LowRate,

    /// <summary>Another speed explains the rhythm nearly as well.</summary>
    Speed,

    /// <summary>Fewer cycles than make a sure mean.</summary>
    Few,

    /// <summary>The speed changed by more than a tenth: of a run-up orders are shown over speed.</summary>
    Changing,
}

/// <summary>A cylinder that a noise may belong to.</summary>
/// <param name="After">Crank degrees after its firing is heard.</param>
/// <param name="Share">Of one, over all cylinders.</param>
public sealed record HeardCylinder(int Cylinder, double After, double Share);

/// <summary>Half orders of one stretch of a run-up.</summary>
/// <param name="Levels">From order ½, or of a two-stroke 1, on.</param>
public sealed record OrderStretch(double Rpm, double[] Levels);

/// <summary>What was heard.</summary>
/// <param name="Beat">Rhythm of the noise that stands out.</param>
/// <param name="Chance">That it is so.</param>
/// <param name="Knock">The noise itself; null where none has any height.</param>
/// <param name="Cylinders">Whose it may be, the likeliest first; empty where no angle is known.</param>
/// <param name="Firings">Where on the circles each firing is heard.</param>
/// <param name="Placed">The angle of each cylinder is known, and not only where some cylinder fires.</param>
/// <param name="Dead">Firings that are not heard.</param>
public sealed record Heard(
    CrankTrack Track,
    IReadOnlyList<TurnCircle> Circles,
    Firings Firings,
    bool Placed,
    NoiseBeat Beat,
    double Chance,
    Knock? Knock,
    IReadOnlyList<HeardCylinder> Cylinders,
    IReadOnlyList<Firing> Dead,
    IReadOnlyList<OrderLine> Lines,
    OrderSpectrum Spectrum,
    IReadOnlyList<OrderStretch> Stretches,
    IReadOnlyList<SoundDoubt> Doubts
)
{
    /// <summary>Chance from which a noise is told as heard.</summary>
    public const double Sure = 0.999;

    /// <summary>Share from which one cylinder is named.</summary>
    public const double Named = 0.8;

    /// <summary>The cylinders named; empty where it cannot be told. Of a noise at every turn it may be two that move together.</summary>
    public IReadOnlyList<int> Whose => Beat is NoiseBeat.Cycle or NoiseBeat.Turn ? WhoseOf(Cylinders) : [];

    private IReadOnlyList<int> WhoseOf(IReadOnlyList<HeardCylinder> cylinders)
    {
        // What knocks at every turn may be of either of two that stand at the same height a turn apart.
        var likely = cylinders.TakeWhile((c, i) => i == 0 || (Beat == NoiseBeat.Turn && Math.Abs(c.After - cylinders[0].After) < 1)).ToArray();
        return likely.Sum(c => c.Share) >= Named ? [.. likely.Select(c => c.Cylinder).Order()] : [];
    }
}

/// <summary>Listens to an engine that runs.</summary>
public static class Listening
{
    // A knock of rod or piston is heard so many degrees after the firing of its cylinder, give or take; ours, no source.
    private const double KnockAfter = 15;

    private const double KnockWithin = 20;

    // And a puff so many; ours, no source.
    private const double PuffAfter = 45;

    private const double PuffWithin = 35;

    private const double ClippedShare = 0.0005;

    // By how much a rhythm has to stand out: of noise alone the best way through comes to somewhat less, with one found among all speeds and with one told. Of
    // an uneven pattern more harmonics are looked at, and their mean scatters less. Measured on noise.
    private const double FaintFound = 0.85;

    private const double FaintTold = 1.1;

    private const int FewCycles = 40;

    private const double EnoughRate = 16000;

    private const double LeastRise = 0.05;

    private const double LeastOver = 2.5;

    private const double SureOfTurn = 0.8;

    // In deviations: cylinders breathe past their rings less alike than they fire. Ours, no source.
    private const double LeastOfPuffs = 4.5;

    // Of the first, from which on a second one a turn later is its like; ours, no source.
    private const double LeastAgain = 0.4;

    /// <exception cref="ProblemException">Silence, too short, too low a rate, or no rhythm to go by; each says what to do.</exception>
    public static Heard Listen(Recording recording, Firings firings, ListenAsk ask)
    {
        var doubts = Checked(recording);
        var envelopes = Envelopes.From(recording);
        var clamp = recording.Pickup is null ? null : ask.Pickup;
        // Of a clamp the rhythm is asked only for what nobody told.
        var rhythm = clamp is not null && ask.Rpm is not null ? null : CrankTrack.ByRhythm(envelopes, firings, ask.Rpm);
        var track = clamp is { } cylinder
            ? CrankTrack.ByPickup(recording, firings, cylinder, ask.Rpm ?? rhythm!.MeanRpm(firings.Turns), envelopes.Rate / CrankTrack.Every)
            : rhythm!;
        if (clamp is null && track.Clear < (ask.Rpm is null ? FaintFound : FaintTold) / Math.Sqrt((double)firings.At.Count / firings.Repeats))
        {
            throw new ProblemException([
                Problem.Of("rpm", ask.Rpm is null ? "sounds.no-rhythm" : "sounds.no-rhythm-at-speed", ("rpm", new Number(ask.Rpm ?? 0, 0))),
            ]);
        }
        else if (track.Rival is not null)
        {
            doubts.Add(SoundDoubt.Speed);
        }

        if (track.Rpm.Count > 1 && (track.Rpm.Max() / track.Rpm.Min()) - 1 > 0.1)
        {
            doubts.Add(SoundDoubt.Changing);
        }

        var circles = envelopes
            .Of.AsParallel()
            .AsOrdered()
            .Select((b, i) => (envelopes.Bands[i], TurnCircle.Rows(b, envelopes.Rate, track, firings.Degrees)))
            .Where(b => b.Item2.Count > 2)
            .Select(b => TurnCircle.Of(b.Item1, firings.Degrees, b.Item2))
            .ToArray();
        if (circles.Length == 0)
        {
            throw new ProblemException([Problem.Of("file", "sounds.too-short", ("seconds", new Number(Recording.Shortest, 0)))]);
        }

        if (circles[0].Cycles < FewCycles)
        {
            doubts.Add(SoundDoubt.Few);
        }

        return Heard(ask, firings, envelopes, track, circles, doubts);
    }

    private static Heard Heard(
        ListenAsk ask,
        Firings firings,
        Envelopes envelopes,
        CrankTrack track,
        IReadOnlyList<TurnCircle> circles,
        List<SoundDoubt> doubts
    )
    {
        var origin = Origin(circles, firings, track);
        var heardAt = Moved(firings, origin);
        var dead = Knocks.Dead(circles, heardAt);
        var placed = track.By == TurnedBy.Pickup && track.MarkCylinders.Count == 1;
        placed |= track.By == TurnedBy.Rhythm && firings.Repeats == 1;
        if (!placed && ask.CutOut is { } silent && dead.Count == 1)
        {
            // The firing that is missing is that of the cylinder cut out, and so all the others are known.
            origin += dead[0].Angle - heardAt.Of(silent).Angle;
            heardAt = Moved(firings, origin);
            dead = [heardAt.Of(silent)];
            placed = true;
        }

        var knock = Knocks.Find(circles, heardAt, dead);
        var even = envelopes
            .Of.AsParallel()
            .AsOrdered()
            .Select(b => track.Resampled(b, envelopes.Rate, OrderLines.PerTurn * firings.Turns))
            .ToArray();
        var lines = OrderLines.Apart(even, firings.Turns, ask.Orders ?? []);
        var (beat, chance) = BeatOf(firings, knock, lines.Count > 0 ? lines[0] : null, ask.For == ListenFor.Puffs ? LeastOfPuffs : 0);
        return new Heard(
            track,
            circles,
            heardAt,
            placed,
            beat,
            chance,
            knock,
            placed && knock is not null ? Whose(knock, beat, heardAt, ask.For) : [],
            dead,
            [.. lines.Where(l => l.Chance >= 0.9).Take(6)],
            OrderLines.Spectrum(even, firings.Turns),
            Stretches(even, track, firings),
            doubts
        );
    }

    private static List<SoundDoubt> Checked(Recording recording)
    {
        var doubts = new List<SoundDoubt>();
        if (recording.Rate < Recording.LeastRate)
        {
            throw new ProblemException([Problem.Of("file", "sounds.rate-too-low", ("rate", recording.Rate), ("least", Recording.LeastRate))]);
        }

        if (recording.Seconds < Recording.Shortest)
        {
            throw new ProblemException([Problem.Of("file", "sounds.too-short", ("seconds", new Number(Recording.Shortest, 0)))]);
        }

        var most = recording.Samples.Max(Math.Abs);
        if (most < 0.002)
        {
            throw new ProblemException([Problem.Of("file", "sounds.silent")]);
        }

        // Cut off is what stays at the highest value for some samples on end.
        var cut = recording.Samples.Skip(1).Zip(recording.Samples).Count(p => p.First == p.Second && Math.Abs(p.First) >= 0.99 * most);
        if (cut > ClippedShare * recording.Samples.Length)
        {
            doubts.Add(SoundDoubt.Clipped);
        }

        if (recording.Rate < EnoughRate)
        {
            doubts.Add(SoundDoubt.LowRate);
        }

        return doubts;
    }

    /// <summary>Where in the circles the firings are heard: where all bands together, at every firing alike, are loudest.</summary>
    private static double Origin(IReadOnlyList<TurnCircle> circles, Firings firings, CrankTrack track)
    {
        var count = circles[0].Count;
        var all = Enumerable.Range(0, count).Select(i => circles.Sum(c => Math.Max(0.01, c.Mean[i] - (0.9 * c.Mean.Min())))).ToArray();
        // The angle of a clamp is known to somewhat before the firing, and what is heard comes after it.
        var (from, to) =
            track.By == TurnedBy.Pickup ? (-5, (int)(Math.Min(80, firings.Gaps.Min() - 10) / TurnCircle.Step)) : (0, count / firings.Repeats);
        var best = Enumerable
            .Range(from, Math.Max(1, to - from))
            .MaxBy(o =>
                firings
                    .At.Select(f => Math.Log(all[circles[0].Wrapped(o + circles[0].IndexOf(f.Angle))]))
                    .Order()
                    .Skip(firings.At.Count > 2 ? 1 : 0)
                    .Sum()
            );
        return best * TurnCircle.Step;
    }

    private static Firings Moved(Firings firings, double by) =>
        firings with
        {
            At = [.. firings.At.Select(f => f with { Angle = (f.Angle + by + (2 * firings.Degrees)) % firings.Degrees })],
        };

    private static (NoiseBeat Beat, double Chance) BeatOf(Firings firings, Knock? knock, OrderLine? line, double least)
    {
        var heard = knock?.Height >= LeastRise && knock.Height > least * knock.Standard && knock.Chance >= Sounds.Heard.Sure;
        var apart = line?.Over >= LeastOver && line.Chance >= Sounds.Heard.Sure;
        // Hammering at an order of its own leaves something at the cycle’s too; what is the surer is the cause of both.
        if (apart && (!heard || line!.Evidence > 0.5 * Math.Pow(knock!.Height / knock.Standard, 2)))
        {
            return (NoiseBeat.Apart, line!.Chance);
        }

        if (!heard)
        {
            return (NoiseBeat.None, 1 - (knock?.Height >= LeastRise ? knock.Chance : 0));
        }

        if (firings.Turns == 1)
        {
            return (NoiseBeat.Turn, knock!.Chance);
        }

        // Once a cycle nothing is heard a turn later; at every turn the second is often the weaker, as it has no firing behind it.
        var turn = knock!.Again is { } share ? MathNet.Numerics.Distributions.Normal.CDF(LeastAgain, Math.Max(0.02, knock.AgainStandard), share) : 0;
        return Math.Max(turn, 1 - turn) < SureOfTurn ? (NoiseBeat.Either, knock.Chance)
            : turn > 0.5 ? (NoiseBeat.Turn, knock.Chance * turn)
            : (NoiseBeat.Cycle, knock.Chance * (1 - turn));
    }

    private static IReadOnlyList<HeardCylinder> Whose(Knock knock, NoiseBeat beat, Firings heardAt, ListenFor what)
    {
        var (usual, within) = what == ListenFor.Puffs ? (PuffAfter, PuffWithin) : (KnockAfter, KnockWithin);
        // Of two raps the first.
        var at = (knock.At * TurnCircle.Step) + Math.Min(0, knock.Soon ?? 0);
        double After(double angle)
        {
            var after = (at - angle + (2 * heardAt.Degrees)) % (beat == NoiseBeat.Turn ? 360 : heardAt.Degrees);
            return after > (beat == NoiseBeat.Turn ? 360 : heardAt.Degrees) - 60 ? after - (beat == NoiseBeat.Turn ? 360 : heardAt.Degrees) : after;
        }

        var weights = heardAt
            .At.SelectMany(f => f.Cylinders.Select(c => (Cylinder: c, After: After(f.Angle))))
            .Select(c => (c.Cylinder, c.After, Weight: Math.Exp(-0.5 * Math.Pow((c.After - usual) / within, 2))))
            .ToArray();
        // What fits none of them is no knock of rod or piston.
        var sum = weights.Sum(w => w.Weight) + Math.Exp(-0.5 * 9);
        return
        [
            .. weights.Select(w => new HeardCylinder(w.Cylinder, w.After, w.Weight / sum)).OrderByDescending(w => w.Share).ThenBy(w => w.Cylinder),
        ];
    }

    /// <summary>Half orders by stretches of some cycles, as the speed goes up or down.</summary>
    private static List<OrderStretch> Stretches(float[][] even, CrankTrack track, Firings firings)
    {
        const int Long = 8;
        const int Most = 120;
        var perCycle = OrderLines.PerTurn * firings.Turns;
        var cycles = even[0].Length / perCycle;
        var first = (int)Math.Ceiling(track.Cycles[0]);
        var step = Math.Max(Long / 2, cycles / Most);
        var orders = (int)(OrderLines.Highest * firings.Turns);
        var stretches = new List<OrderStretch>();
        var block = new Complex32[Long * perCycle];
        for (var from = 0; from + Long <= cycles; from += step)
        {
            var levels = new double[orders];
            foreach (var band in even)
            {
                var mean = 0f;
                for (var i = 0; i < block.Length; i++)
                {
                    var v = band[(from * perCycle) + i];
                    mean += v;
                    block[i] = new Complex32(v, 0);
                }

                Fourier.Forward(block, FourierOptions.NoScaling);
                for (var k = 0; k < orders; k++)
                {
                    levels[k] += 2 * block[(k + 1) * Long].Magnitude / Math.Max(1e-12f, mean) / even.Length;
                }
            }

            var (a, b) = (TimeOf(track, first + from), TimeOf(track, first + from + Long));
            stretches.Add(new OrderStretch(Long * firings.Turns * 60 / Math.Max(1e-6, b - a), levels));
        }

        return stretches;
    }

    private static double TimeOf(CrankTrack track, double cycles)
    {
        var i = Array.BinarySearch(track.Cycles, cycles);
        return (i >= 0 ? i : ~i) / track.Rate;
    }
}

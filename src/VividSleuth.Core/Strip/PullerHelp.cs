using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <summary>Property classes of ISO 898-1 and grades of SAE J429.</summary>
public enum BoltGrade
{
    Class46,
    Class58,
    Class88,
    Class109,
    Class129,
    Grade2,
    Grade5,
    Grade8,
}

/// <summary>A screw thread: metric with its pitch, or inch with its threads per inch.</summary>
/// <param name="Name">As it is written: M10×1.5, 1/2-20.</param>
/// <param name="Diameter">Nominal diameter, mm.</param>
/// <param name="StressArea">Tensile stress area, mm².</param>
/// <param name="Pitch">mm.</param>
public sealed record ScrewThread(string Name, double Diameter, double StressArea, bool IsInch, double Pitch);

/// <summary>Whether puller bolts carry the pull.</summary>
/// <param name="Proof">Proof load of one bolt, kN.</param>
/// <param name="Each">Share of the pull on one bolt, kN.</param>
/// <param name="Share">Each over Proof.</param>
public sealed record PullerCheck(double Proof, double Each, double Share, Fact Words);

/// <summary>What a hub with tapped holes is made of.</summary>
public enum HubMetal
{
    Steel,
    CastIron,
    Aluminium,
}

/// <summary>Threads of the hub that the puller's bolts are screwed into.</summary>
/// <param name="Strips">Pull at which they strip, kN.</param>
/// <param name="Share">Pull of one bolt over it.</param>
public sealed record HubCheck(double Strips, double Share, Fact Words);

/// <summary>Loads on fasteners that pull.</summary>
public static class PullerHelp
{
    /// <summary>A pull is kept below this share of the proof load. Common practice, no source.</summary>
    public const double MostShare = 0.75;

    /// <summary>Torque coefficient of a dry to lightly oiled thread. Common practice, no source.</summary>
    public const double Dry = 0.2;

    /// <summary>Torque coefficient of a greased forcing screw: it pulls harder for the same torque. Common practice, no source.</summary>
    public const double Greased = 0.12;

    /// <summary>Pitches in mm by diameter: the coarse one first, then the fine ones. Source: ISO 261, ISO 262; values from memory.</summary>
    private static readonly Dictionary<double, double[]> Pitches = new()
    {
        [3] = [0.5, 0.35],
        [4] = [0.7, 0.5],
        [5] = [0.8, 0.5],
        [6] = [1, 0.75],
        [7] = [1, 0.75],
        [8] = [1.25, 1, 0.75],
        [10] = [1.5, 1.25, 1, 0.75],
        [12] = [1.75, 1.25, 1.5, 1],
        [14] = [2, 1.5, 1.25, 1],
        [16] = [2, 1.5, 1],
        [18] = [2.5, 1.5, 2, 1],
        [20] = [2.5, 1.5, 2, 1],
        [22] = [2.5, 1.5, 2, 1],
        [24] = [3, 2, 1.5, 1],
        [27] = [3, 2, 1.5, 1],
        [30] = [3.5, 2, 1.5, 3, 1],
        [33] = [3.5, 2, 1.5, 3],
        [36] = [4, 3, 2, 1.5],
    };

    /// <summary>
    /// Shear strength in N/mm² of what a hub is usually made of: an ordinary steel of 400, grey iron of 200 and a cast alloy of 160 N/mm² tensile, by the
    /// shear ratios 0.6, 0.9 and 0.7 of VDI 2230; values from memory. A hub of better stuff holds more, a corroded thread less: a rule of thumb.
    /// </summary>
    private static readonly Dictionary<HubMetal, double> Shear = new()
    {
        [HubMetal.Steel] = 240,
        [HubMetal.CastIron] = 180,
        [HubMetal.Aluminium] = 110,
    };

    /// <summary>
    /// Reads a thread: M10, M10×1.25, M10x1.25, M10 fine, 1/2-20, 3/8-16. Stress area of ISO 898-1: π/4·(d − 0.9382·P)²; of the unified
    /// thread π/4·(D − 0.9743/n)² in inches. A metric thread without pitch is the coarse one of ISO 261, a fine one the first of its fine ones.
    /// </summary>
    /// <exception cref="ProblemException">It is no thread known here.</exception>
    public static ScrewThread Parse(string text)
    {
        var typed = text.Trim().ToUpperInvariant().Replace('×', 'X').Replace(',', '.').Replace(" ", "", StringComparison.Ordinal);
        if (typed.StartsWith('M'))
        {
            var fine = typed.EndsWith("FINE", StringComparison.Ordinal);
            var parts = (fine ? typed[1..^4] : typed[1..]).Split('X');
            if (Number(parts[0]) is { } d && Pitches.TryGetValue(d, out var pitches) && parts.Length <= (fine ? 1 : 2))
            {
                var pitch = parts.Length == 2 ? Number(parts[1]) : pitches[fine ? 1 : 0];
                return pitch is { } p && pitches.Contains(p)
                    ? new ScrewThread($"M{d:0.##}×{p:0.##}", d, Math.PI / 4 * Math.Pow(d - (0.9382 * p), 2), IsInch: false, p)
                    : throw new ProblemException(Problem.Of("thread", "strip.no-such-pitch", ("text", text), ("diameter", d), ("pitches", pitches)));
            }
        }
        else if (
            typed.Split('-') is [var size, var perInch]
            && Fraction(size) is { } inches and >= 0.1 and <= 2
            && Number(perInch) is { } n and >= 4 and <= 80
        )
        {
            var area = Math.PI / 4 * Math.Pow(inches - (0.9743 / n), 2);
            return area > 0.4 * inches * inches
                ? new ScrewThread($"{size}-{n:0}", inches * 25.4, area * 25.4 * 25.4, IsInch: true, 25.4 / n)
                : throw Unknown(text);
        }

        throw Unknown(text);
    }

    /// <summary>
    /// Proof load in kN: proof stress times stress area, by class and size. Proof stresses of ISO 898-1 (225, 380, 580 to 16 mm and 600 above, 830,
    /// 970 N/mm²) and SAE J429 (grade 2 55 ksi to ¾ in and 33 above, grade 5 85 ksi to one inch and 74 above, grade 8 120 ksi); values from memory.
    /// </summary>
    /// <exception cref="ProblemException">The class is of metric bolts and the thread is in inches, or the other way round.</exception>
    public static double ProofLoad(ScrewThread thread, BoltGrade grade)
    {
        const double Ksi = 6.894757293168;
        if (thread.IsInch != grade is BoltGrade.Grade2 or BoltGrade.Grade5 or BoltGrade.Grade8)
        {
            throw new ProblemException(Problem.Of("grade", thread.IsInch ? "strip.inch-bolt-has-grade" : "strip.metric-bolt-has-class"));
        }

        var stress = grade switch
        {
            BoltGrade.Class46 => 225,
            BoltGrade.Class58 => 380,
            BoltGrade.Class88 => thread.Diameter <= 16 ? 580 : 600,
            BoltGrade.Class109 => 830,
            BoltGrade.Class129 => 970,
            BoltGrade.Grade2 => (thread.Diameter <= 0.75 * 25.4 ? 55 : 33) * Ksi,
            BoltGrade.Grade5 => (thread.Diameter <= 25.4 ? 85 : 74) * Ksi,
            BoltGrade.Grade8 => 120 * Ksi,
            _ => throw new ArgumentOutOfRangeException(nameof(grade)),
        };
        return stress * thread.StressArea / 1000;
    }

    /// <summary>Pull of a forcing screw in kN from its torque in N·m: F = T/(K·d). Source: any text on machine elements.</summary>
    /// <param name="greased">A forcing screw is greased before it is turned; a dry one pulls less.</param>
    public static double PullOf(double torque, ScrewThread screw, bool greased = true) => Pull(torque, greased ? Greased : Dry, screw.Diameter);

    /// <param name="torque">N·m.</param>
    /// <param name="coefficient">Torque coefficient K.</param>
    /// <param name="diameter">Nominal diameter of the screw, mm.</param>
    /// <returns>kN.</returns>
    public static double Pull(double torque, double coefficient, double diameter) => torque / (coefficient * diameter);

    /// <param name="pull">What pulls in all, kN.</param>
    /// <param name="bolts">How many bolts share it.</param>
    public static PullerCheck Check(ScrewThread thread, BoltGrade grade, double pull, int bolts)
    {
        if (pull <= 0 || bolts is < 1 or > 12)
        {
            throw new ProblemException(Problem.Of("pull", "strip.pull-one-twelve-bolts-needed"));
        }

        var proof = ProofLoad(thread, grade);
        var each = pull / bolts;
        var share = each / proof;
        var words = share switch
        {
            > 1 => Fact.Of("strip.above-proof-load-bolts-stretch"),
            > MostShare => Fact.Of("strip.more-than-proof-load-rule", ("share", new Percent(MostShare))),
            _ => Fact.Of("strip.below-proof-load-stand-out"),
        };
        return new PullerCheck(proof, each, share, words);
    }

    /// <summary>
    /// Whether the tapped holes of the hub hold what one bolt pulls. Shear area of the internal thread A = π·d·m·(½ + (d − d₂)/P·tan 30°) with
    /// d − d₂ = 0.6495 P, which is 0.875 π d m; of the length engaged m, 0.8 of a pitch is not counted. Source: VDI 2230, stripping of threads; from
    /// memory.
    /// </summary>
    /// <param name="each">Pull of one bolt, kN.</param>
    /// <param name="engaged">Length of thread in the hub, mm.</param>
    public static HubCheck Hub(ScrewThread thread, double each, double engaged, HubMetal metal)
    {
        if (engaged is not (> 0 and <= 200))
        {
            throw new ProblemException(Problem.Of("engaged", "strip.length-of-thread-needed"));
        }

        var counted = Math.Max(0, engaged - (0.8 * thread.Pitch));
        var strips = Shear[metal] * 0.875 * Math.PI * thread.Diameter * counted / 1000;
        var share = strips > 0 ? each / strips : double.PositiveInfinity;
        return new HubCheck(
            strips,
            double.IsFinite(share) ? share : 99,
            Fact.Of(
                share > 1 ? "strip.hub-strips"
                    : share > MostShare ? "strip.hub-too-near"
                    : "strip.hub-holds",
                ("share", new Percent(MostShare))
            )
        );
    }

    private static double? Number(string text) =>
        double.TryParse(text, System.Globalization.NumberStyles.AllowDecimalPoint, System.Globalization.CultureInfo.InvariantCulture, out var n)
            ? n
            : null;

    private static double? Fraction(string text) =>
        text.Split('/') is [var top, var bottom] && Number(top) is { } t && Number(bottom) is { } b and > 0 ? t / b : Number(text);

    private static ProblemException Unknown(string text) => new(Problem.Of("thread", "strip.thread-known-here", ("text", text)));
}

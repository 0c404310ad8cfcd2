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
public sealed record ScrewThread(string Name, double Diameter, double StressArea, bool IsInch);

/// <summary>Whether puller bolts carry the pull.</summary>
/// <param name="Proof">Proof load of one bolt, kN.</param>
/// <param name="Each">Share of the pull on one bolt, kN.</param>
/// <param name="Share">Each over Proof.</param>
public sealed record PullerCheck(double Proof, double Each, double Share, Fact Words);

/// <summary>Loads on fasteners that pull.</summary>
public static class PullerHelp
{
    /// <summary>A pull is kept below this share of the proof load. Common practice, no source.</summary>
    public const double MostShare = 0.75;

    /// <summary>Torque coefficient of a dry to lightly oiled thread. Common practice, no source.</summary>
    public const double Dry = 0.2;

    /// <summary>Torque coefficient of a greased forcing screw: it pulls harder for the same torque. Common practice, no source.</summary>
    public const double Greased = 0.12;

    private static readonly Dictionary<double, double> Coarse = new()
    {
        [3] = 0.5,
        [4] = 0.7,
        [5] = 0.8,
        [6] = 1,
        [8] = 1.25,
        [10] = 1.5,
        [12] = 1.75,
        [14] = 2,
        [16] = 2,
        [18] = 2.5,
        [20] = 2.5,
        [22] = 2.5,
        [24] = 3,
    };

    /// <summary>
    /// Reads a thread: M10, M10×1.25, M10x1.25, 1/2-20, 3/8-16. Stress area of ISO 898-1: π/4·(d − 0.9382·P)²; of the unified
    /// thread π/4·(D − 0.9743/n)² in inches. A metric thread without pitch is the coarse one of ISO 261.
    /// </summary>
    /// <exception cref="ProblemException">It is no thread known here.</exception>
    public static ScrewThread Parse(string text)
    {
        var typed = text.Trim().ToUpperInvariant().Replace('×', 'X').Replace(',', '.').Replace(" ", "", StringComparison.Ordinal);
        if (typed.StartsWith('M'))
        {
            var parts = typed[1..].Split('X');
            if (Number(parts[0]) is { } d and >= 1.6 and <= 64)
            {
                var pitch =
                    parts.Length == 2 ? Number(parts[1])
                    : Coarse.TryGetValue(d, out var coarse) ? coarse
                    : null;
                if (parts.Length <= 2 && pitch is { } p and > 0 && p < d / 2)
                {
                    return new ScrewThread($"M{d:0.##}×{p:0.##}", d, Math.PI / 4 * Math.Pow(d - (0.9382 * p), 2), IsInch: false);
                }
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
                ? new ScrewThread($"{size}-{n:0}", inches * 25.4, area * 25.4 * 25.4, IsInch: true)
                : throw Unknown(text);
        }

        throw Unknown(text);
    }

    /// <summary>
    /// Proof load in kN: proof stress times stress area. Proof stresses of ISO 898-1 (225, 380, 580 to 16 mm and 600 above, 830,
    /// 970 N/mm²) and SAE J429 (55, 85, 120 ksi to one inch); values from memory.
    /// </summary>
    public static double ProofLoad(ScrewThread thread, BoltGrade grade)
    {
        const double Ksi = 6.894757293168;
        var stress = grade switch
        {
            BoltGrade.Class46 => 225,
            BoltGrade.Class58 => 380,
            BoltGrade.Class88 => thread.Diameter <= 16 ? 580 : 600,
            BoltGrade.Class109 => 830,
            BoltGrade.Class129 => 970,
            BoltGrade.Grade2 => 55 * Ksi,
            BoltGrade.Grade5 => 85 * Ksi,
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

    private static double? Number(string text) =>
        double.TryParse(text, System.Globalization.NumberStyles.AllowDecimalPoint, System.Globalization.CultureInfo.InvariantCulture, out var n)
            ? n
            : null;

    private static double? Fraction(string text) =>
        text.Split('/') is [var top, var bottom] && Number(top) is { } t && Number(bottom) is { } b and > 0 ? t / b : Number(text);

    private static ProblemException Unknown(string text) => new(Problem.Of("thread", "strip.thread-known-here", ("text", text)));
}

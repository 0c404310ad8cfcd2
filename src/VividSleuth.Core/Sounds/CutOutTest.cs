using MathNet.Numerics.Distributions;

namespace VividSleuth.Core.Sounds;

/// <summary>What became of the noise with one cylinder cut out.</summary>
/// <param name="Left">How much of it was left, as a share of what it was with all running; with its standard uncertainty.</param>
/// <param name="Chance">That the noise is this cylinder’s.</param>
public sealed record CutOutResult(int Cylinder, double Left, double Standard, double Chance);

/// <summary>The cut-out test: cylinders are silenced one after the other, and the one whose silence takes the noise away is its source.</summary>
/// <param name="Results">Of each cylinder that was cut out, in their order.</param>
/// <param name="Elsewhere">Chance that it is of a cylinder that was not cut out, or of none.</param>
public sealed record CutOutTest(IReadOnlyList<CutOutResult> Results, double Elsewhere)
{
    // Of the noise of a cylinder that no longer fires less than this is left, and of another's about all: common practice, no source.
    private const double LeftAtMost = 0.6;

    private const double Varies = 0.2;

    // A recording of its own says as much for each cylinder by the angle of what is left.
    private const double LeastShare = 0.02;

    /// <summary>Cylinder that is named; null where none is sure enough.</summary>
    public int? Whose => Results.Where(r => r.Chance >= Heard.Named).Select(r => (int?)r.Cylinder).FirstOrDefault();

    /// <summary>Weighs the cylinders by what was left of the noise each time; every one of the engine is as likely beforehand.</summary>
    /// <param name="all">With all running.</param>
    /// <param name="cut">With one cylinder cut out each; of one cut out twice both count.</param>
    /// <param name="cylinders">All of the engine.</param>
    /// <exception cref="ProblemException">No knock stands out with all running, or nothing was cut out.</exception>
    public static CutOutTest Of(Heard all, IReadOnlyList<(int Cylinder, Heard Heard)> cut, IReadOnlyList<int> cylinders)
    {
        if (all.Knock is not { } knock || all.Beat is not (NoiseBeat.Cycle or NoiseBeat.Turn))
        {
            throw new ProblemException([Problem.Of("sounds", "sounds.no-knock-to-cut-out")]);
        }

        if (cut.Count == 0)
        {
            throw new ProblemException([Problem.Of("sounds", "sounds.nothing-cut-out")]);
        }

        var before = Knocks.BesideFirings(all.Circles[knock.Band], all.Firings, all.Dead);
        var left = cut.Select(c =>
            {
                var now =
                    c.Heard.Circles.Count > knock.Band
                        ? Knocks.BesideFirings(c.Heard.Circles[knock.Band], c.Heard.Firings, c.Heard.Dead)
                        : new Loudness(0, before.Value);
                var share = now.Value / before.Value;
                var standard = Math.Sqrt(Square(now.Standard) + Square(share * before.Standard)) / before.Value;
                return (c.Cylinder, c.Heard, Share: share, Standard: standard);
            })
            .ToArray();
        var weights = cylinders.ToDictionary(
            k => k,
            k => left.Aggregate(1.0, (w, c) => w * (c.Cylinder == k ? Gone(c.Share, c.Standard) : Stays(c.Share, c.Standard)) * ByAngle(c.Heard, k))
        );
        // As likely as any one of them beforehand: of none, such as a loose pulley.
        var none = left.Aggregate(1.0, (w, c) => w * Stays(c.Share, c.Standard) * LeastShare);
        var sum = weights.Values.Sum() + none;
        var results = left.GroupBy(c => c.Cylinder)
            .OrderBy(g => g.Key)
            .Select(g => new CutOutResult(g.Key, g.Average(c => c.Share), g.Average(c => c.Standard), weights[g.Key] / sum))
            .ToArray();
        return new CutOutTest(results, Math.Max(0, 1 - results.Sum(r => r.Chance)));
    }

    private static double Square(double v) => v * v;

    /// <summary>Density of a share left where the noise is gone: anything up to a limit alike.</summary>
    private static double Gone(double share, double standard)
    {
        var s = Math.Max(standard, 0.03);
        return (Normal.CDF(0, s, LeftAtMost - share) - Normal.CDF(0, s, -share)) / LeftAtMost;
    }

    /// <summary>Where it stays.</summary>
    private static double Stays(double share, double standard) => Normal.PDF(1, Math.Sqrt(Square(standard) + Square(Varies)), share);

    /// <summary>What the angle of the noise says in a recording in which the firing that is missing tells where each cylinder is.</summary>
    private static double ByAngle(Heard heard, int cylinder) =>
        heard is { Placed: true, Beat: NoiseBeat.Cycle or NoiseBeat.Turn, Cylinders.Count: > 0 }
            ? Math.Max(LeastShare, heard.Cylinders.Where(c => c.Cylinder == cylinder).Select(c => c.Share).FirstOrDefault())
            : LeastShare;
}

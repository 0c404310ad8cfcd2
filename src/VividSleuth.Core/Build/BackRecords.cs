using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Build;

/// <summary>What somebody did on the way back.</summary>
public enum BackActKind
{
    /// <summary>A part went in: scanned at its place, or a new one.</summary>
    Fitted,

    /// <summary>It came out again.</summary>
    TakenOut,

    /// <summary>Something that is looked at was seen to be so.</summary>
    Ticked,
    Unticked,

    /// <summary>All fasteners of a set went through a pass.</summary>
    Tightened,

    /// <summary>A second person went over a set that is tight.</summary>
    Checked,

    /// <summary>An opening was covered or plugged.</summary>
    Covered,

    /// <summary>The cover came off again.</summary>
    Uncovered,

    /// <summary>A gate was passed in spite of what it says.</summary>
    Passed,

    /// <summary>Hours that it ran since the first start.</summary>
    Ran,
}

/// <summary>Something that was done at a step of the way back. Only ever added, and withdrawn; of one step and one thing the last counts.</summary>
public sealed class BackAct : CaseRecord
{
    /// <summary>Key of the task: back/… or add/…</summary>
    public string Step { get; set; } = "";

    public BackActKind Kind { get; set; }

    /// <summary>Where the part went in; the tick, the set, what was covered; of a gate its key.</summary>
    public string Of { get; set; } = "";

    /// <summary>Address that stands on the part that went in; empty of a new one.</summary>
    public string Tag { get; set; } = "";

    /// <summary>A new one went in.</summary>
    public bool IsNew { get; set; }

    /// <summary>How its mark sits now, seen from the free end.</summary>
    public Facing Facing { get; set; }

    /// <summary>The side that was up is up.</summary>
    public bool SideUp { get; set; }

    /// <summary>Of a new one, the line of the order that it came with; null where it came with none.</summary>
    public Guid? Line { get; set; }

    /// <summary>Which pass, from 1.</summary>
    public int Pass { get; set; }

    /// <summary>Of a pass, and of who went over it: the wrench, by its name in the shop; empty where nobody said.</summary>
    public string Instrument { get; set; } = "";

    /// <summary>Hours run since the first start, by its meter or by reckoning; null of other acts.</summary>
    public decimal? Hours { get; set; }

    /// <summary>Why a gate is passed; where a new part came from that no line of the order speaks of.</summary>
    public string Why { get; set; } = "";

    /// <summary>By place the act that put a part in, of those that did not come out again.</summary>
    public static IReadOnlyDictionary<string, BackAct> Standing(IEnumerable<BackAct> acts) =>
        acts.Where(a => a.Stands() && a.Kind is BackActKind.Fitted or BackActKind.TakenOut)
            .GroupBy(a => a.Of, StringComparer.Ordinal)
            .Select(g => g.OrderBy(a => a.At).ThenBy(a => a.Id).Last())
            .Where(a => a.Kind == BackActKind.Fitted)
            .ToDictionary(a => a.Of, StringComparer.Ordinal);
}

/// <summary>One pass of a tightening: to a torque, by an angle, or both.</summary>
/// <param name="Torque">N·m; null where it goes by angle alone.</param>
/// <param name="Angle">Degrees further; null where it goes by torque alone.</param>
/// <param name="Loosen">The set is loosened again after it: it was to seat the joint, or to measure.</param>
public sealed record TighteningPass(decimal? Torque, decimal? Angle, bool Loosen)
{
    /// <summary>For files, which fill it in one by one.</summary>
    public TighteningPass()
        : this(null, null, false) { }
}

/// <summary>How a set of fasteners is tightened, as the maker’s manual has it. The latest of a set counts.</summary>
public sealed class Tightening : CaseRecord
{
    /// <summary>Id of the step of the strip.</summary>
    public string Step { get; set; } = "";

    /// <summary>Id of the set within the step.</summary>
    public string Set { get; set; } = "";

    /// <summary>In the order in which they are gone through; none where it is tightened by feel.</summary>
    public List<TighteningPass> Passes { get; set; } = [];

    /// <summary>Unit in which torques were typed.</summary>
    public string Unit { get; set; } = "";

    /// <summary>Numbers of the holes in the maker’s order; empty where the manual gives none.</summary>
    public List<int> Order { get; set; } = [];

    public string Lubricant { get; set; } = "";

    public string ThreadLock { get; set; } = "";

    public string Sealant { get; set; } = "";

    public LimitSource Source { get; set; }

    /// <summary>Manual, or who set it.</summary>
    public string SourceText { get; set; } = "";

    /// <summary>Page of the manual.</summary>
    public string Page { get; set; } = "";

    /// <summary>Case of the same kind of engine from which it was taken over; null where it was typed here.</summary>
    public Guid? TakenFrom { get; set; }

    public string Note { get; set; } = "";

    /// <summary>By step and set the one that counts.</summary>
    public static IReadOnlyDictionary<(string Step, string Set), Tightening> Latest(IEnumerable<Tightening> all) =>
        all.Where(t => t.Stands()).GroupBy(t => (t.Step, t.Set)).ToDictionary(g => g.Key, g => g.OrderBy(t => t.At).ThenBy(t => t.Id).Last());

    /// <summary>What is wrong with it; nothing of one that may stand.</summary>
    /// <param name="expected">How many fasteners the set has; null where the step has no such set.</param>
    public IEnumerable<Problem> Check(int? expected)
    {
        if (expected is not { } count)
        {
            yield return Problem.Of("set", "strip.set-fasteners-step", ("set", Set));
            yield break;
        }

        if (string.IsNullOrWhiteSpace(SourceText))
        {
            yield return Problem.Of("sourceText", "build.tighten.whose");
        }

        if (Source == LimitSource.MakersManual && string.IsNullOrWhiteSpace(Page))
        {
            yield return Problem.Of("page", "build.tighten.page");
        }

        if (Source == LimitSource.RuleOfThumb)
        {
            yield return Problem.Of("source", "build.tighten.no-thumb");
        }

        if (Passes.Count > MostPasses)
        {
            yield return Problem.Of("passes", "build.tighten.too-many", ("most", MostPasses));
        }

        foreach (var (n, pass) in Passes.Index())
        {
            if (pass is { Torque: null, Angle: null })
            {
                yield return Problem.Of("passes", "build.tighten.says-nothing", ("pass", n + 1));
            }

            if (pass.Torque is <= 0 or > MostTorque)
            {
                yield return Problem.Of("passes", "build.tighten.torque-cannot-be", ("pass", n + 1), ("most", Torque(MostTorque)));
            }

            if (pass.Angle is <= 0 or > MostAngle)
            {
                yield return Problem.Of("passes", "build.tighten.angle-cannot-be", ("pass", n + 1), ("most", MostAngle));
            }
        }

        if (Passes.Count > 0 && Passes[^1].Loosen)
        {
            yield return Problem.Of("passes", "build.tighten.ends-loose");
        }

        if (Passes.Count == 0 && Source == LimitSource.MakersManual)
        {
            yield return Problem.Of("passes", "build.tighten.no-pass");
        }

        if (Order.Count > 0 && !Order.Order().SequenceEqual(Enumerable.Range(1, count)))
        {
            yield return Problem.Of("order", "build.tighten.each-hole-once", ("count", count));
        }
    }

    private static Amount Torque(decimal newtonMetres) => new((double)newtonMetres, Quantity.Torque, 3);

    private const int MostPasses = 8;

    /// <summary>N·m; beyond it are ships’ engines, which are tightened by stretching.</summary>
    private const decimal MostTorque = 5000;

    /// <summary>Degrees.</summary>
    private const int MostAngle = 720;
}

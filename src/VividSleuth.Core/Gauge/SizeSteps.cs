using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

/// <summary>The steps in which a kind of part is to be had for an engine, standard among them, in rising order.</summary>
public sealed class SizeSteps
{
    private readonly Grade[] _had;
    private readonly Grade[] _ground;

    /// <param name="all">Every step, the odd ones too.</param>
    /// <param name="ground">Steps by whose size a part that was machined before is known; of two that no micrometer tells apart, one.</param>
    private SizeSteps(IEnumerable<Grade> all, IEnumerable<Grade> ground)
    {
        All = [Grade.Standard, .. all.DistinctBy(g => g.Under).OrderBy(g => g.Under)];
        _had = [.. All.Where(g => !g.Odd)];
        _ground = [Grade.Standard, .. ground.DistinctBy(g => g.Under).OrderBy(g => g.Under)];
    }

    public IReadOnlyList<Grade> All { get; }

    /// <summary>Steps to which a part may be machined, without standard.</summary>
    public IEnumerable<Grade> ToBeHad => _had.Where(g => g.Under > 0);

    /// <summary>The usual steps of a kind of part.</summary>
    public static SizeSteps Usual(KnowledgeBase knowledge, string kind, StepSystem system)
    {
        var all = knowledge
            .Sizes.Where(s => s.On.Contains(kind) && (system == StepSystem.Both || s.System == system))
            .SelectMany(s => s.Steps.Select(step => new Grade(s.Unit == "in" ? step * 25.4m : step) { Odd = s.Odd, ByMaker = s.ByMaker }))
            .ToArray();
        // Where both are in use .010 in is told as 0.25 mm.
        var named = system == StepSystem.Inch ? StepSystem.Inch : StepSystem.Metric;
        return new SizeSteps(all, all.Where(g => !g.Odd && g.In(named)));
    }

    /// <summary>The steps that the maker lists for this very engine.</summary>
    public static SizeSteps Listed(IEnumerable<decimal> steps)
    {
        var all = steps.Where(s => s > 0).Select(s => new Grade(s)).ToArray();
        return new SizeSteps(all, all);
    }

    /// <summary>
    /// The grade to which a journal was ground: wear only takes away, so it is the step whose size lies at or just above what is found.
    /// </summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="found">Measured diameter, mm.</param>
    /// <param name="grinding">Tolerance of grinding, mm: how far above its grade a journal may be. Common practice, no source.</param>
    public Grade OfJournal(decimal standard, decimal found, decimal grinding = 0.010m) =>
        _ground.Where(g => g.Under <= standard - found + grinding).MaxBy(g => g.Under) ?? Grade.Standard;

    /// <summary>The oversize to which a bore was bored: wear only adds, so it is the step whose size lies at or just under what is found.</summary>
    /// <param name="standard">Standard bore, mm.</param>
    /// <param name="found">Measured bore, mm.</param>
    /// <param name="honing">How far under its grade a bore may be, mm. Common practice, no source.</param>
    public Grade OfBore(decimal standard, decimal found, decimal honing = 0.010m) =>
        _ground.Where(g => g.Under <= found - standard + honing).MaxBy(g => g.Under) ?? Grade.Standard;

    /// <summary>The grade a shell is made for: half the undersize is added to the standard wall; the nearest step is taken.</summary>
    public Grade OfShell(decimal standardWall, decimal foundWall) => _ground.MinBy(g => Math.Abs(standardWall + (g.Under / 2) - foundWall))!;

    /// <summary>The first step that cleans a journal up; standard where that still does.</summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="left">Largest round that the wear leaves (<see cref="Machining"/>), mm.</param>
    /// <param name="allowance">What grinding takes at least on the diameter beyond the deepest wear, mm; a rule of thumb.</param>
    /// <returns>Null where no step is deep enough.</returns>
    public Grade? UndersizeThatCleansUp(decimal standard, decimal left, decimal allowance) =>
        Array.Find(_had, g => standard - g.Under <= left - allowance);

    /// <summary>The first oversize that cleans a bore up.</summary>
    /// <param name="standard">Standard bore, mm.</param>
    /// <param name="taken">Smallest round that takes the wear in (<see cref="Machining"/>), mm.</param>
    /// <param name="allowance">What boring and honing take at least on the diameter beyond the deepest wear, mm; a rule of thumb.</param>
    /// <returns>Null where no step is large enough.</returns>
    public Grade? OversizeThatCleansUp(decimal standard, decimal taken, decimal allowance) =>
        Array.Find(_had, g => g.Under > 0 && standard + g.Under >= taken + allowance);
}

/// <summary>What bounds how far a part may be machined.</summary>
public enum BoundBy
{
    /// <summary>The maker says so.</summary>
    Maker,

    /// <summary>The wall that is left.</summary>
    Wall,

    /// <summary>The depth to which the surface is hardened.</summary>
    Hardening,

    /// <summary>Shells, pistons or rings are made no further.</summary>
    Shells,
}

/// <summary>Sizes that are to be had for this kind of engine, from its maker or from who makes parts for it.</summary>
public sealed class ServiceSizes : CaseRecord
{
    /// <summary>Kind of part that is machined to them: a journal or a bore.</summary>
    public string Kind { get; set; } = "";

    /// <summary>Under or over standard, mm, rising.</summary>
    public List<decimal> Steps { get; set; } = [];

    /// <summary>Unit in which they were typed.</summary>
    public string Unit { get; set; } = "mm";

    /// <summary>How far it may be machined at most, mm on the diameter; null where nothing but the steps bounds it.</summary>
    public decimal? Furthest { get; set; }

    public BoundBy FurthestBy { get; set; }

    /// <summary>Manual and page, or whose list.</summary>
    public string SourceText { get; set; } = "";

    /// <summary>What is wrong with a list; nothing of one that may stand.</summary>
    public IEnumerable<Problem> Check(KnowledgeBase knowledge)
    {
        var kinds = knowledge.Sizes.SelectMany(s => s.On).Distinct(StringComparer.Ordinal).ToArray();
        if (!kinds.Contains(Kind))
        {
            yield return Problem.Of("kind", "gauge.nobody-machines-it-to-sizes", ("kind", Kind), ("kinds", kinds));
        }

        if (Steps.Count is < 1 or > 20 || Steps.Exists(s => s is <= 0 or > 5))
        {
            yield return Problem.Of("steps", "gauge.sizes-are-between");
        }
        else if (Steps.Zip(Steps.Skip(1)).Any(p => p.First >= p.Second))
        {
            yield return Problem.Of("steps", "gauge.sizes-rise");
        }

        if (Furthest is <= 0 or > 10)
        {
            yield return Problem.Of("furthest", "gauge.furthest-is-between");
        }

        if (string.IsNullOrWhiteSpace(SourceText))
        {
            yield return Problem.Of("sourceText", "gauge.sizes-need-a-source");
        }
    }
}

/// <summary>Which sizes are to be had: those listed for the engine before the usual ones. The one home of the rule.</summary>
public sealed class SizeBook(KnowledgeBase knowledge, IReadOnlyList<ServiceSizes> listed, StepSystem system)
{
    private readonly Dictionary<string, SizeSteps> _of = new(StringComparer.Ordinal);

    /// <summary>The list that counts for a kind of part: the newest that stands; null where nobody entered one.</summary>
    public ServiceSizes? Listed(string kind) =>
        listed.Where(s => s.Stands() && s.Kind == kind).OrderByDescending(s => s.At).ThenByDescending(s => s.Id).FirstOrDefault();

    public SizeSteps Of(string kind)
    {
        if (!_of.TryGetValue(kind, out var steps))
        {
            _of[kind] = steps = Listed(kind) is { } own ? SizeSteps.Listed(own.Steps) : SizeSteps.Usual(knowledge, kind, system);
        }

        return steps;
    }
}

using System.Globalization;
using System.Text.RegularExpressions;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Index;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Shop;

/// <summary>A class that strips engines of one kind, each bench its own.</summary>
public sealed partial class SchoolClass : IShopRecord
{
    public const int MostBenches = 60;

    public Guid Id { get; set; }

    public string Name { get; set; } = "";

    /// <summary>Letters before the number of a bench; together they stand before every mark and tag of its engine.</summary>
    public string Mark { get; set; } = "";

    /// <summary>People who teach it: they see and sign all its benches.</summary>
    public List<Guid> Teachers { get; set; } = [];

    /// <summary>Hold points at which a second pair of eyes looks before a teacher signs; ids of steps.</summary>
    public List<string> SecondLooks { get; set; } = [];

    /// <summary>Minutes without an entry after which a bench counts as stuck, while others of the class work.</summary>
    public int StuckAfter { get; set; } = 20;

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }

    /// <summary>What stands before the marks of a bench’s engine: “L3”.</summary>
    public string PrefixOf(int number) => string.Create(CultureInfo.InvariantCulture, $"{Mark}{number}");

    /// <summary>What is wrong with it.</summary>
    public IEnumerable<Problem> Check()
    {
        if (string.IsNullOrWhiteSpace(Name))
        {
            yield return Problem.Of("name", "shop.class-needs-name");
        }

        if (!MarkPattern().IsMatch(Mark))
        {
            yield return Problem.Of("mark", "shop.class-mark");
        }

        if (Teachers.Count == 0)
        {
            yield return Problem.Of("teachers", "shop.class-needs-teacher");
        }

        if (StuckAfter is < 1 or > 600)
        {
            yield return Problem.Of("stuckAfter", "shop.stuck-after");
        }
    }

    // Without the letters that are read as digits.
    [GeneratedRegex("^[A-HJ-NP-Z]{1,2}$", RegexOptions.None, 1000)]
    private static partial Regex MarkPattern();
}

/// <summary>A bench of a class: one engine, one case, one student or a group.</summary>
public sealed class Bench : IShopRecord
{
    public const int MostPeople = 8;

    public Guid Id { get; set; }

    public Guid ClassId { get; set; }

    /// <summary>From 1.</summary>
    public int Number { get; set; }

    public Guid CaseId { get; set; }

    public List<Guid> People { get; set; } = [];

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }

    /// <summary>The case with which a bench begins, as another stands in what is of the engine’s kind and not of the engine; nothing found or measured.</summary>
    /// <param name="template">The case that all benches begin like.</param>
    public static EngineCase CaseLike(CaseReader template, string title, string prefix)
    {
        var of = template.Case;
        var made = new EngineCase
        {
            Title = title,
            EngineName = of.EngineName,
            Owner = of.Owner,
            Prefix = prefix,
            Layout = of.Layout,
            Complaint = of.Complaint,
            Past = of.Past,
            Script = template.Book.Script.Id,
            Variants = [.. of.Variants],
            Stroke = of.Stroke,
            RodLength = of.RodLength,
            KindId = of.KindId,
            KindVersion = of.KindVersion,
            Lengths = of.Lengths,
        };
        foreach (var item in KindItems.Of(template).Select(i => i.Record).OfType<CaseRecord>().Select(KindItems.Bare))
        {
            switch (item)
            {
                case Gauge.Limit limit:
                    made.Limits.Add(limit);
                    break;
                case Gauge.ServiceSizes sizes:
                    made.Sizes.Add(sizes);
                    break;
                case Build.Tightening how:
                    made.Tightenings.Add(how);
                    break;
            }
        }

        made.OwnSteps =
        [
            .. of
                .OwnSteps.Where(o => o.Stands())
                .GroupBy(o => o.Step.Id)
                .Select(g => g.MaxBy(o => (o.At, o.Id))!)
                .Select(o => new OwnStep { Step = o.Step, Reason = o.Reason }),
        ];
        return made;
    }
}

/// <summary>An engine to practise on that a whole class is set, each alone.</summary>
public sealed class Homework : IShopRecord
{
    public Guid Id { get; set; }

    public Guid ClassId { get; set; }

    public string Name { get; set; } = "";

    /// <summary>Which engine is drawn. Nobody is told: one of these is never met in practice.</summary>
    public int Seed { get; set; }

    /// <summary>Until when it is to be in; null where no day is set.</summary>
    public DateOnly? Until { get; set; }

    /// <summary>When a teacher told the truth before all were in; null where nobody did.</summary>
    public DateTimeOffset? ToldAt { get; set; }

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

/// <summary>What one of the class looked at, and what he commits to.</summary>
public sealed class HomeworkTry
{
    public Guid Id { get; set; }

    public Guid HomeworkId { get; set; }

    public Guid Person { get; set; }

    /// <summary>In the order in which it was looked at. What was looked at counts, whatever is made of it.</summary>
    public List<HomeworkLook> Looks { get; set; } = [];

    public List<Trace.PracticeGuess> Guesses { get; set; } = [];

    /// <summary>Null until it is in.</summary>
    public DateTimeOffset? InAt { get; set; }

    public bool Right { get; set; }

    /// <summary>Bits.</summary>
    public double LogScore { get; set; }

    public double Minutes { get; set; }

    public int Version { get; set; }
}

public sealed record HomeworkLook(string Sign, string Place);

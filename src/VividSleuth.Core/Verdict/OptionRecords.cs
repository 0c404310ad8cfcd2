using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

public enum LineKind
{
    Part,

    /// <summary>Machine shop, welder, specialist.</summary>
    ShopWork,

    /// <summary>Own hours at the bench.</summary>
    OwnHours,

    /// <summary>“While in there”: not needed, and cheap now.</summary>
    Extra,

    /// <summary>Money that comes back: a core returned, an engine sold.</summary>
    Credit,

    /// <summary>Labour that is paid already by its being open; it counts for no option.</summary>
    Paid,
}

/// <summary>A line of an option.</summary>
/// <param name="Quantity">Pieces, or hours of own work.</param>
/// <param name="Price">Of one, in its currency; of own work of one hour.</param>
/// <param name="Days">Until it is there or back.</param>
/// <param name="Group">Id of the group that it is for; empty for any.</param>
/// <param name="Course">Id of the course; empty for any.</param>
public sealed record OptionLine(
    Guid Id,
    LineKind Kind,
    string What,
    decimal Quantity,
    decimal Price,
    string Currency,
    decimal Days,
    string Group,
    string Course
);

/// <summary>What a failure costs, one way.</summary>
/// <param name="Far">Only where it fails far out.</param>
/// <param name="Covered">A warranty bears it.</param>
public sealed record FailureCost(string What, decimal Amount, string Currency, bool Far, bool Covered);

/// <summary>Who bears it when it fails again.</summary>
public enum WarrantyBy
{
    Nobody,
    Supplier,
    OwnShop,
}

/// <summary>A course for the whole engine, or for one group.</summary>
public sealed class RepairOption : CaseRecord
{
    public string Title { get; set; } = "";

    /// <summary>Id of the group it is for; empty for the whole engine. Options of one scope are held against each other.</summary>
    public string Scope { get; set; } = "";

    public List<OptionLine> Lines { get; set; } = [];

    /// <summary>Currency that everything is told in.</summary>
    public string Base { get; set; } = "";

    /// <summary>The rates that count: by code, how much of the base one unit is.</summary>
    public Dictionary<string, decimal> Rates { get; set; } = [];

    /// <summary>Ids of what may go wrong with it.</summary>
    public List<string> Risks { get; set; } = [];

    /// <summary>Ids of the causes that it removes.</summary>
    public List<string> Removes { get; set; } = [];

    public List<FailureCost> Failing { get; set; } = [];

    /// <summary>Share of the engine’s hours that it is far out, 0 to 1.</summary>
    public decimal FarOut { get; set; }

    public WarrantyBy Warranty { get; set; }

    public int WarrantyMonths { get; set; }

    /// <summary>What the practitioner holds for the chance that it fails again, in place of the computation's; null takes the computation's.</summary>
    public decimal? OwnChance { get; set; }

    public string Remarks { get; set; } = "";

    /// <summary>What is wrong with it; nothing of one that may stand.</summary>
    public IEnumerable<Problem> Check(KnowledgeBase knowledge)
    {
        if (string.IsNullOrWhiteSpace(Title))
        {
            yield return Problem.Of("title", "verdict.option.needs-a-title");
        }

        if (Scope.Length > 0 && knowledge.Groups.All(g => g.Id != Scope))
        {
            yield return Problem.Of("scope", "verdict.option.no-such-group", ("group", Scope));
        }

        if (!Currencies.Has(Base))
        {
            yield return Problem.Of("base", "verdict.option.unknown-currency", ("currency", Base));
        }

        if (Lines.Count is < 1 or > MostLines)
        {
            yield return Problem.Of("lines", "verdict.option.so-many-lines", ("most", MostLines));
        }

        foreach (var (line, n) in Lines.Select((l, n) => (l, n)))
        {
            var field = $"lines[{n}]";
            if (string.IsNullOrWhiteSpace(line.What))
            {
                yield return Problem.Of(field, "verdict.option.line-without-words", ("line", n + 1));
            }

            if (line.Price < 0 || line.Quantity < 0 || line.Days < 0)
            {
                yield return Problem.Of(field, "verdict.option.negative", ("line", line.What));
            }

            if (line.Price > MostMoney || line.Quantity > 100_000 || line.Days > 3650)
            {
                yield return Problem.Of(field, "verdict.option.too-much", ("line", line.What));
            }
        }

        foreach (var currency in Lines.Select(l => l.Currency).Concat(Failing.Select(f => f.Currency)).Distinct(StringComparer.Ordinal))
        {
            if (!Currencies.Has(currency))
            {
                yield return Problem.Of("currency", "verdict.option.unknown-currency", ("currency", currency));
            }
            else if (currency != Base && Rates.GetValueOrDefault(currency) <= 0)
            {
                yield return Problem.Of("rates", "verdict.option.no-rate", ("currency", currency), ("base", Base));
            }
        }

        if (Failing.Exists(f => f.Amount is < 0 or > MostMoney))
        {
            yield return Problem.Of("failing", "verdict.option.negative", ("line", Failing.First(f => f.Amount is < 0 or > MostMoney).What));
        }

        if (FarOut is < 0 or > 1 || OwnChance is < 0 or > 1)
        {
            yield return Problem.Of("ownChance", "verdict.option.chance");
        }

        if (Risks.Find(r => knowledge.ReuseRisks.All(k => k.Id != r)) is { } risk)
        {
            yield return Problem.Of("risks", "verdict.option.no-such-risk", ("risk", risk));
        }

        if (Removes.Find(c => knowledge.Cause(c) is null) is { } cause)
        {
            yield return Problem.Of("removes", "verdict.option.no-such-cause", ("cause", cause));
        }
    }

    private const int MostLines = 200;
    private const decimal MostMoney = 1_000_000_000_000m;
}

/// <summary>The option that the practitioner chose, and why.</summary>
public sealed class OptionChoice : CaseRecord
{
    public Guid Option { get; set; }

    public string Title { get; set; } = "";

    public string Scope { get; set; } = "";

    public string Why { get; set; } = "";

    /// <summary>Sure cost then, in the base currency.</summary>
    public decimal Cost { get; set; }

    /// <summary>Chance that it fails again, as it stood then.</summary>
    public double Chance { get; set; }

    /// <summary>Expected cost then.</summary>
    public decimal Expected { get; set; }

    public string Currency { get; set; } = "";
}

/// <summary>What the customer says to an option, through a link that he was given: his own words, and what he was shown when he said so.</summary>
public sealed class OptionAnswer : CaseRecord
{
    public Guid Option { get; set; }

    public string Scope { get; set; } = "";

    public string Title { get; set; } = "";

    /// <summary>False refuses it.</summary>
    public bool Approves { get; set; }

    /// <summary>Sure cost as he was shown it, in the currency.</summary>
    public decimal Cost { get; set; }

    public string Currency { get; set; } = "";

    /// <summary>Who says so, as typed; nobody has checked it.</summary>
    public string Name { get; set; } = "";

    public string Words { get; set; } = "";

    /// <summary>The link that it came through.</summary>
    public Guid Link { get; set; }

    /// <summary>The latest that stands to each option.</summary>
    public static IReadOnlyList<OptionAnswer> Latest(IEnumerable<OptionAnswer> answers) =>
        [.. answers.Where(a => a.Stands()).OrderBy(a => a.At).ThenBy(a => a.Id).GroupBy(a => a.Option).Select(g => g.Last())];
}

using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Verdict;

public enum OptionMark
{
    /// <summary>The least sure cost among those whose chance of failing again is not far above the safest's.</summary>
    CheapestSound,

    Safest,
    Quickest,

    /// <summary>The least expected cost.</summary>
    LeastExpected,

    /// <summary>The least of the greatest regrets.</summary>
    LeastRegret,
}

/// <summary>One thing that may make it fail again.</summary>
/// <param name="Chance">By the one table of words, or by Trace.</param>
public sealed record OptionRisk(string Id, Fact Words, double Chance);

/// <summary>What an option comes to. Money in the base currency.</summary>
/// <param name="Lines">Of each line its amount; of money that comes back less than nothing; of what is paid already nothing.</param>
/// <param name="Sure">What it costs for sure.</param>
/// <param name="Days">Until the last thing is there; own hours beside it.</param>
/// <param name="Chance">That it fails again before its next overhaul.</param>
/// <param name="IfHere">What a failure costs here, less what a warranty bears.</param>
/// <param name="IfFar">What it costs far out.</param>
/// <param name="Failure">What it costs on average, by how much of its time it is far out.</param>
/// <param name="Spread">Standard deviation of the cost.</param>
/// <param name="Regret">The greatest: how much more it may cost than the best in hindsight.</param>
public sealed record JudgedOption(
    Guid Id,
    string Title,
    string Currency,
    IReadOnlyList<decimal> Lines,
    decimal Sure,
    decimal Extras,
    decimal Paid,
    decimal Hours,
    decimal Days,
    double Chance,
    IReadOnlyList<OptionRisk> Risks,
    decimal IfHere,
    decimal IfFar,
    decimal Failure,
    decimal Expected,
    decimal Spread,
    decimal Regret,
    IReadOnlyList<OptionMark> Marks,
    IReadOnlyList<Fact> Says
);

/// <summary>Options of one scope held against each other.</summary>
/// <param name="Changes">What would change the choice.</param>
/// <param name="Answers">What the customer said last to each.</param>
public sealed record OptionTable(
    string Scope,
    IReadOnlyList<JudgedOption> Options,
    IReadOnlyList<Fact> Changes,
    OptionChoice? Chosen,
    IReadOnlyList<OptionAnswer> Answers
);

/// <summary>
/// Cost against risk. None of the options is “the” answer: the cheapest sound one, the safest and the quickest are marked, and what would change the choice is
/// told; the practitioner chooses and says why.
/// </summary>
public static class OptionJudge
{
    /// <summary>An option is sound while it fails no likelier than the safest by this much. Ours, no source.</summary>
    private const double SoundWithin = 0.15;

    /// <summary>What “probable” means for a cause that somebody found. Ours, no source.</summary>
    private const double Probable = 0.8;

    private const string CauseStays = "cause-stays";

    public static IReadOnlyList<OptionTable> Judge(
        IReadOnlyList<RepairOption> options,
        IReadOnlyList<OptionChoice> choices,
        IReadOnlyList<OptionAnswer> answers,
        KnowledgeBase knowledge,
        TraceAnswer trace,
        IReadOnlyList<Conclusion> conclusions
    ) =>
        [
            .. options
                .Where(o => o.Stands())
                .OrderBy(o => o.At)
                .ThenBy(o => o.Id)
                .GroupBy(o => o.Scope, StringComparer.Ordinal)
                .Select(g => Table(g.Key, [.. g], choices, answers, knowledge, trace, conclusions)),
        ];

    private static OptionTable Table(
        string scope,
        RepairOption[] options,
        IReadOnlyList<OptionChoice> choices,
        IReadOnlyList<OptionAnswer> answers,
        KnowledgeBase knowledge,
        TraceAnswer trace,
        IReadOnlyList<Conclusion> conclusions
    )
    {
        var judged = options.Select(o => One(o, knowledge, trace, conclusions)).ToArray();
        // States in hindsight: nothing comes true, or one of the risks that some option carries does, here or far out.
        var states = judged.SelectMany(j => j.Risks.Select(r => r.Id)).Distinct(StringComparer.Ordinal).ToArray();
        double[][] costs =
        [
            .. judged.Select(j =>
                (double[])
                    [
                        (double)j.Sure,
                        .. states.SelectMany(s =>
                            j.Risks.Any(r => r.Id == s)
                                ? new[] { (double)(j.Sure + j.IfHere), (double)(j.Sure + j.IfFar) }
                                : [(double)j.Sure, (double)j.Sure]
                        ),
                    ]
            ),
        ];
        var regret = Decisions.GreatestRegret(costs);
        judged = [.. judged.Select((j, n) => j with { Regret = Currencies.Rounded((decimal)regret[n], j.Currency) })];
        var one = judged.Select(j => j.Currency).Distinct(StringComparer.Ordinal).Count() == 1;
        if (one && judged.Length > 1)
        {
            var safest = judged.Min(j => j.Chance);
            var sound = judged.Where(j => j.Chance <= safest + SoundWithin).ToArray();
            var leads = new Dictionary<OptionMark, Guid>
            {
                [OptionMark.CheapestSound] = sound.MinBy(j => j.Sure)!.Id,
                [OptionMark.Safest] = judged.MinBy(j => j.Chance)!.Id,
                [OptionMark.Quickest] = judged.MinBy(j => j.Days)!.Id,
                [OptionMark.LeastExpected] = judged.MinBy(j => j.Expected)!.Id,
                [OptionMark.LeastRegret] = judged.MinBy(j => j.Regret)!.Id,
            };
            judged = [.. judged.Select(j => j with { Marks = [.. leads.Where(l => l.Value == j.Id).Select(l => l.Key)] })];
        }

        return new OptionTable(
            scope,
            judged,
            one && judged.Length > 1 ? Changes(judged) : [],
            choices.Where(c => c.Stands() && c.Scope == scope).OrderBy(c => c.At).ThenBy(c => c.Id).LastOrDefault(),
            OptionAnswer.Latest(answers.Where(a => options.Any(o => o.Id == a.Option)))
        );
    }

    private static JudgedOption One(RepairOption option, KnowledgeBase knowledge, TraceAnswer trace, IReadOnlyList<Conclusion> conclusions)
    {
        var exchange = new Exchange(option.Base, option.Rates);
        decimal In(decimal amount, string currency) => exchange.InBase(new Money(amount, currency)) ?? 0;
        decimal[] lines =
        [
            .. option.Lines.Select(l =>
                l.Kind == LineKind.Paid ? 0
                : l.Kind == LineKind.Credit ? -In(l.Quantity * l.Price, l.Currency)
                : In(l.Quantity * l.Price, l.Currency)
            ),
        ];
        decimal Of(LineKind kind) => option.Lines.Select((l, n) => (l, n)).Where(x => x.l.Kind == kind).Sum(x => lines[x.n]);
        var paid = option.Lines.Where(l => l.Kind == LineKind.Paid).Sum(l => In(l.Quantity * l.Price, l.Currency));
        var risks = Risks(option, knowledge, trace, conclusions);
        var chance = option.OwnChance is { } own ? (double)own : 1 - risks.Aggregate(1.0, (p, r) => p * (1 - r.Chance));
        var bears = option.Warranty == WarrantyBy.Supplier;
        decimal Failing(bool far) => option.Failing.Where(f => (far || !f.Far) && !(bears && f.Covered)).Sum(f => In(f.Amount, f.Currency));
        var (here, there) = (Failing(far: false), Failing(far: true));
        var sure = lines.Sum();
        var failure = Currencies.Rounded(((1 - option.FarOut) * here) + (option.FarOut * there), option.Base);
        double[] costs = [(double)sure, (double)(sure + here), (double)(sure + there)];
        double[] probabilities = [1 - chance, chance * (double)(1 - option.FarOut), chance * (double)option.FarOut];
        return new JudgedOption(
            option.Id,
            option.Title,
            option.Base,
            lines,
            sure,
            Of(LineKind.Extra),
            paid,
            option.Lines.Where(l => l.Kind == LineKind.OwnHours).Sum(l => l.Quantity),
            option.Lines.Select(l => l.Days).DefaultIfEmpty(0).Max(),
            chance,
            risks,
            here,
            there,
            failure,
            Currencies.Rounded((decimal)Decisions.Expected(costs, probabilities), option.Base),
            Currencies.Rounded((decimal)Decisions.Spread(costs, probabilities), option.Base),
            0,
            [],
            [
                .. new[]
                {
                    option.OwnChance is { } o ? Fact.Of("verdict.option.own-chance", ("chance", new Number(Math.Round(100 * (double)o)))) : null,
                    option.Warranty == WarrantyBy.Supplier ? Fact.Of("verdict.option.warranty-supplier", ("months", option.WarrantyMonths))
                    : option.Warranty == WarrantyBy.OwnShop ? Fact.Of("verdict.option.warranty-own", ("months", option.WarrantyMonths))
                    : null,
                    option.Failing.Count == 0 ? Fact.Of("verdict.option.no-failure-cost") : null,
                    option.Lines.Exists(l => l.Price == 0 && l.Kind is LineKind.Part or LineKind.ShopWork or LineKind.OwnHours)
                        ? Fact.Of(
                            "verdict.option.without-price",
                            (
                                "lines",
                                option
                                    .Lines.Where(l => l.Price == 0 && l.Kind is LineKind.Part or LineKind.ShopWork or LineKind.OwnHours)
                                    .Select(l => l.What)
                                    .ToArray()
                            )
                        )
                        : null,
                }.OfType<Fact>(),
            ]
        );
    }

    /// <summary>What may make it fail again: what was named, and the root cause as far as it stays in the engine.</summary>
    private static List<OptionRisk> Risks(RepairOption option, KnowledgeBase knowledge, TraceAnswer trace, IReadOnlyList<Conclusion> conclusions)
    {
        var risks = option
            .Risks.Where(r => r != CauseStays)
            .Select(r => knowledge.ReuseRisks.FirstOrDefault(k => k.Id == r))
            .OfType<KnownReuse>()
            .Select(k => new OptionRisk(k.Id, Fact.Text(k.Name), k.Often.Probability()))
            .ToList();
        var comesBack = knowledge.ReuseRisks.FirstOrDefault(k => k.Id == CauseStays)?.Often.Probability() ?? 1;
        var found = conclusions.Where(c => c.Stands() && c.Cause.Length > 0 && c.Confidence is Confidence.Proven or Confidence.Probable).ToArray();
        var proven = found.Where(c => c.Confidence == Confidence.Proven).ToArray();
        (string Name, double P) Found(Conclusion c) => (knowledge.Cause(c.Cause)?.Name ?? c.Cause, c.Confidence == Confidence.Proven ? 1 : Probable);
        // What somebody proved counts by itself; what he holds for probable stands beside what Trace ranks.
        var stays =
            proven.Length > 0
                ? proven.Where(c => !option.Removes.Contains(c.Cause)).Select(Found).ToArray()
                :
                [
                    .. found.Where(c => !option.Removes.Contains(c.Cause)).Select(Found),
                    .. trace
                        .Ranking.Where(r => !option.Removes.Contains(r.Cause) && !Array.Exists(found, c => c.Cause == r.Cause))
                        .Select(r => (r.Name, r.Probability)),
                ];
        var left = 1 - stays.Aggregate(1.0, (p, s) => p * (1 - s.P));
        // What nobody knows cannot have been removed.
        var unknown =
            found.Length > 0 ? 0
            : trace.SignsRecorded > 0 ? trace.NoneOfThese
            : 0;
        var all = 1 - ((1 - left) * (1 - unknown));
        if (all >= 0.005)
        {
            risks.Insert(
                0,
                new OptionRisk(
                    CauseStays,
                    stays.MaxBy(s => s.P) is { Name: not null } worst && worst.P >= 0.02
                        ? Fact.Of("verdict.option.cause-stays", ("cause", worst.Name), ("chance", new Number(Math.Round(100 * all))))
                        : Fact.Of("verdict.option.cause-unknown", ("chance", new Number(Math.Round(100 * all)))),
                    comesBack * all
                )
            );
        }

        return risks;
    }

    /// <summary>What would change the choice by expected cost: the chance, the cost of failing and the price at which another leads.</summary>
    private static List<Fact> Changes(JudgedOption[] options)
    {
        var says = new List<Fact>();
        var lead = options.MinBy(o => o.Expected)!;
        foreach (var other in options.Where(o => o.Id != lead.Id).OrderBy(o => o.Expected))
        {
            var gap = other.Expected - lead.Expected;
            says.Add(Fact.Of("verdict.option.gap", ("lead", lead.Title), ("other", other.Title), ("by", Amount(gap, lead.Currency))));
            if (
                lead.Failure > 0
                && Decisions.BreakEven((double)lead.Sure, (double)lead.Failure, (double)other.Expected, 0) is { } p
                && p > lead.Chance
                && p <= 1
            )
            {
                says.Add(
                    Fact.Of(
                        "verdict.option.break-even-chance",
                        ("lead", lead.Title),
                        ("chance", new Number(100 * p, 1)),
                        ("now", new Number(100 * lead.Chance, 1)),
                        ("other", other.Title)
                    )
                );
            }

            // Both fail at one cost: where is it at which the two come to the same?
            if (Decisions.BreakEven((double)lead.Sure, lead.Chance, (double)other.Sure, other.Chance) is { } f && f > 0 && lead.Chance > other.Chance)
            {
                says.Add(
                    Fact.Of(
                        "verdict.option.break-even-failure",
                        ("cost", Amount(Currencies.Rounded((decimal)f, lead.Currency), lead.Currency)),
                        ("now", Amount(lead.Failure, lead.Currency)),
                        ("other", other.Title)
                    )
                );
            }
        }

        return says;
    }

    private static Fact Amount(decimal amount, string currency) =>
        Fact.Of("verdict.option.money", ("amount", new Number((double)amount, Currencies.DigitsOf(currency), Fixed: true)), ("currency", currency));
}

using MathNet.Numerics.Distributions;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>One reading of a study: who read which part, the how-manieth time. A later one of the same cell takes the place of an earlier.</summary>
public sealed class StudyReading
{
    public Guid Id { get; set; }

    public string Part { get; set; } = "";

    public string Person { get; set; } = "";

    /// <summary>From 1.</summary>
    public int Trial { get; set; }

    public string Typed { get; set; } = "";

    /// <summary>Base unit of the characteristic's quantity.</summary>
    public decimal Value { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";
}

/// <summary>Several people measure the same parts with one instrument, each several times, so that the shop knows how well it measures.</summary>
public sealed class GaugeStudy : IShopRecord
{
    public const int MostParts = 30;
    public const int MostPeople = 60;
    public const int MostTrials = 10;

    public Guid Id { get; set; }

    public string Name { get; set; } = "";

    /// <summary>The class that it is set; null where it is the shop’s own.</summary>
    public Guid? ClassId { get; set; }

    public string Characteristic { get; set; } = "";

    /// <summary>Name of the shop's instrument.</summary>
    public string Instrument { get; set; } = "";

    /// <summary>Unit where none is typed.</summary>
    public string Unit { get; set; } = "";

    public List<string> Parts { get; set; } = [];

    public List<string> People { get; set; } = [];

    public int Trials { get; set; } = 3;

    public List<StudyReading> Readings { get; set; } = [];

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }

    /// <summary>What is wrong with its plan.</summary>
    public IEnumerable<Problem> Check(KnowledgeBase knowledge)
    {
        if (string.IsNullOrWhiteSpace(Name))
        {
            yield return Problem.Of("name", "gauge.study-without-name");
        }

        if (knowledge.Characteristic(Characteristic) is not { Derived: false })
        {
            yield return Problem.Of("characteristic", "gauge.cannot-measured-here", ("characteristic", Characteristic));
        }

        if (!Named(Parts, 1, MostParts))
        {
            yield return Problem.Of("parts", "gauge.study-of-two-to-so-many-parts", ("most", MostParts));
        }

        if (!Named(People, 2, MostPeople))
        {
            yield return Problem.Of("people", "gauge.study-by-two-to-so-many-people", ("most", MostPeople));
        }

        if (Trials is < 2 or > MostTrials)
        {
            yield return Problem.Of("trials", "gauge.study-of-two-to-so-many-trials", ("most", MostTrials));
        }
    }

    /// <summary>The readings that count, by part, person and trial.</summary>
    public IReadOnlyDictionary<(string Part, string Person, int Trial), StudyReading> Standing() =>
        Readings.GroupBy(r => (r.Part, r.Person, r.Trial)).ToDictionary(g => g.Key, g => g.OrderBy(r => r.At).ThenBy(r => r.Id).Last());

    private static bool Named(List<string> names, int least, int most) =>
        names.Count >= least
        && names.Count <= most
        && names.TrueForAll(n => n.Trim().Length > 0)
        && names.Distinct(StringComparer.OrdinalIgnoreCase).Count() == names.Count;
}

/// <summary>One row of the analysis of variance.</summary>
/// <param name="Freedom">Degrees of freedom.</param>
/// <param name="F">Null where the row is held against none.</param>
/// <param name="P">Probability of an F at least as great by chance.</param>
public sealed record VarianceRow(string Id, int Freedom, double Squares, double MeanSquare, double? F, double? P);

/// <summary>What a study comes to. Deviations are standard deviations in the base unit.</summary>
/// <param name="Repeatability">Of one person, one part, again and again.</param>
/// <param name="Reproducibility">Between people, with what each does differently on each part where that is more than chance.</param>
/// <param name="Both">Of repeatability and reproducibility together.</param>
/// <param name="BetweenParts">Of the parts themselves.</param>
/// <param name="Pooled">The interaction was no more than chance, and counts as repeatability.</param>
/// <param name="Share">Part of the whole spread that is the measuring’s and not the parts’; null of one part, which says nothing of that.</param>
/// <param name="Mean">Of all readings.</param>
public sealed record StudyAnswer(
    IReadOnlyList<VarianceRow> Rows,
    double Repeatability,
    double RepeatFreedom,
    double Reproducibility,
    double PeopleFreedom,
    double Both,
    double BetweenParts,
    bool Pooled,
    double? Share,
    double Mean,
    IReadOnlyList<PersonBias> People,
    IReadOnlyList<Fact> Says
);

/// <summary>How far one person reads from the mean of all, and how much his own readings scatter. Base unit.</summary>
public sealed record PersonBias(string Person, double Bias, double Scatter);

/// <summary>
/// Repeatability and reproducibility of a study by the variance components of a two-way analysis of variance, parts and people both drawn at random.
/// Source: D. C. Montgomery, Introduction to Statistical Quality Control, on gauge capability; the same arithmetic as the measurement systems analysis of
/// the motor trade. One part measured by all is the one-way analysis of the same book, and of ISO 5725-2, 7.4.5: repeatability within a person, and
/// what lies between people.
/// </summary>
public static class GaugeStudies
{
    /// <summary>An interaction that chance makes more often than this is pooled with the repeatability. The usual level of the method.</summary>
    private const double PoolAbove = 0.25;

    /// <summary>Share of the spread that measuring may take: under the first it is good, over the second no use. Common practice, no source.</summary>
    private const double Good = 0.1;

    private const double NoUse = 0.3;

    /// <summary>Works a study out; null while cells are empty.</summary>
    public static StudyAnswer? Evaluate(GaugeStudy study)
    {
        var standing = study.Standing();
        var (parts, people, trials) = (study.Parts.Count, study.People.Count, study.Trials);
        var x = new double[parts, people, trials];
        for (var i = 0; i < parts; i++)
        {
            for (var j = 0; j < people; j++)
            {
                for (var k = 0; k < trials; k++)
                {
                    if (!standing.TryGetValue((study.Parts[i], study.People[j], k + 1), out var reading))
                    {
                        return null;
                    }

                    x[i, j, k] = (double)reading.Value;
                }
            }
        }

        var grand = Mean(x.Cast<double>());
        var ofPart = Enumerable.Range(0, parts).Select(i => Mean(From(people, trials, (j, k) => x[i, j, k]))).ToArray();
        var ofPerson = Enumerable.Range(0, people).Select(j => Mean(From(parts, trials, (i, k) => x[i, j, k]))).ToArray();
        double cells = 0,
            within = 0;
        var scatter = new double[people];
        for (var i = 0; i < parts; i++)
        {
            for (var j = 0; j < people; j++)
            {
                var mean = Mean(Enumerable.Range(0, trials).Select(k => x[i, j, k]));
                cells += trials * Square(mean - ofPart[i] - ofPerson[j] + grand);
                var own = Enumerable.Range(0, trials).Sum(k => Square(x[i, j, k] - mean));
                within += own;
                scatter[j] += own;
            }
        }

        if (parts == 1)
        {
            return OfOnePart(study, ofPerson, scatter, grand);
        }

        var squaresOfParts = people * trials * ofPart.Sum(m => Square(m - grand));
        var squaresOfPeople = parts * trials * ofPerson.Sum(m => Square(m - grand));
        var (freePart, freePerson) = (parts - 1, people - 1);
        var (freeCell, freeWithin) = (freePart * freePerson, parts * people * (trials - 1));
        var (meanPart, meanPerson) = (squaresOfParts / freePart, squaresOfPeople / freePerson);
        var (meanCell, meanWithin) = (cells / freeCell, within / freeWithin);
        var fCell = Ratio(meanCell, meanWithin);
        var pooled = Tail(fCell, freeCell, freeWithin) > PoolAbove;
        // Where the interaction is no more than chance, its squares are repeatability too.
        var (error, freedom) = pooled ? ((cells + within) / (freeCell + freeWithin), freeCell + freeWithin) : (meanWithin, freeWithin);
        var (against, freeAgainst) = pooled ? (error, freedom) : (meanCell, freeCell);
        var interaction = pooled ? 0 : Math.Max(0, (meanCell - meanWithin) / trials);
        var between = Math.Max(0, (meanPerson - against) / (parts * trials)) + interaction;
        var spread = Math.Max(0, (meanPart - against) / (people * trials));
        var both = error + between;
        var share = both + spread > 0 ? Math.Sqrt(both / (both + spread)) : 0;
        var (fPart, fPerson) = (Ratio(meanPart, against), Ratio(meanPerson, against));
        return new StudyAnswer(
            [
                new("parts", freePart, squaresOfParts, meanPart, fPart, Tail(fPart, freePart, freeAgainst)),
                new("people", freePerson, squaresOfPeople, meanPerson, fPerson, Tail(fPerson, freePerson, freeAgainst)),
                new("interaction", freeCell, cells, meanCell, fCell, Tail(fCell, freeCell, freeWithin)),
                new("repeats", freeWithin, within, meanWithin, null, null),
            ],
            Math.Sqrt(error),
            freedom,
            Math.Sqrt(between),
            freePerson,
            Math.Sqrt(both),
            Math.Sqrt(spread),
            pooled,
            share,
            grand,
            [.. study.People.Select((p, j) => new PersonBias(p, ofPerson[j] - grand, Math.Sqrt(scatter[j] / (parts * (trials - 1)))))],
            [.. Words(share, Math.Sqrt(error), Math.Sqrt(between))]
        );
    }

    /// <param name="scatter">Sum of the squares of each person’s readings about his mean.</param>
    private static StudyAnswer OfOnePart(GaugeStudy study, double[] ofPerson, double[] scatter, double grand)
    {
        var (people, trials) = (study.People.Count, study.Trials);
        var (between, within) = (trials * ofPerson.Sum(m => Square(m - grand)), scatter.Sum());
        var (freePerson, freeWithin) = (people - 1, people * (trials - 1));
        var (meanPerson, meanWithin) = (between / freePerson, within / freeWithin);
        var f = Ratio(meanPerson, meanWithin);
        var ofPeople = Math.Max(0, (meanPerson - meanWithin) / trials);
        var (repeats, differ) = (Math.Sqrt(meanWithin), Math.Sqrt(ofPeople));
        return new StudyAnswer(
            [
                new("people", freePerson, between, meanPerson, f, Tail(f, freePerson, freeWithin)),
                new("repeats", freeWithin, within, meanWithin, null, null),
            ],
            repeats,
            freeWithin,
            differ,
            freePerson,
            Math.Sqrt(meanWithin + ofPeople),
            0,
            Pooled: false,
            Share: null,
            grand,
            [.. study.People.Select((p, j) => new PersonBias(p, ofPerson[j] - grand, Math.Sqrt(scatter[j] / (trials - 1))))],
            [WhoDiffers(repeats, differ)]
        );
    }

    private static IEnumerable<Fact> Words(double share, double repeats, double people)
    {
        yield return Fact.Of(
            share <= Good ? "gauge.study-is-good"
                : share <= NoUse ? "gauge.study-is-fair"
                : "gauge.study-is-no-use",
            ("share", new Percent(share))
        );
        yield return WhoDiffers(repeats, people);
    }

    private static Fact WhoDiffers(double repeats, double people) =>
        Fact.Of(people > repeats ? "gauge.study-people-differ" : "gauge.study-one-hand-scatters");

    private static IEnumerable<double> From(int a, int b, Func<int, int, double> of) =>
        Enumerable.Range(0, a).SelectMany(i => Enumerable.Range(0, b).Select(j => of(i, j)));

    private static double Mean(IEnumerable<double> of) => of.Average();

    private static double Square(double x) => x * x;

    private static double Ratio(double a, double b) =>
        b > 0 ? a / b
        : a > 0 ? double.MaxValue
        : 0;

    private static double Tail(double f, int above, int below) => 1 - FisherSnedecor.CDF(above, below, Math.Min(f, 1e12));
}

/// <summary>How well the shop reads one characteristic with one instrument, as a study found and somebody took over. Base unit.</summary>
/// <param name="Study">Name of the study.</param>
public sealed record StudiedScatter(
    string Characteristic,
    double Repeatability,
    double RepeatFreedom,
    double Reproducibility,
    double PeopleFreedom,
    Guid StudyId,
    string Study,
    DateTimeOffset At
);

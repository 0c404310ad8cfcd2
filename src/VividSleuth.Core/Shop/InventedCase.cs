using System.Globalization;
using System.Text.RegularExpressions;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Shop;

/// <summary>How far an engine that never was has been worked, and by whom.</summary>
public sealed record InventionPlan
{
    /// <summary>The number by which it is drawn from the causes.</summary>
    public required int Seed { get; init; }

    public required DateTimeOffset Start { get; init; }

    /// <summary>From one entry of the strip to the next.</summary>
    public TimeSpan Pace { get; init; } = TimeSpan.FromMinutes(6);

    /// <summary>Who works at it, turn about.</summary>
    public required IReadOnlyList<string> People { get; init; }

    /// <summary>Who signs its hold points, and his role.</summary>
    public required (string Name, string Role) Signer { get; init; }

    /// <summary>Sections of the strip that are done and signed; all of them where there are fewer.</summary>
    public int Sections { get; init; } = int.MaxValue;

    /// <summary>Steps of the next section that are done.</summary>
    public int Steps { get; init; }

    /// <summary>The last hold point that is done is not signed yet.</summary>
    public bool Waits { get; init; }

    /// <summary>The word with which it was sent back instead; empty where it was not.</summary>
    public string SentBack { get; init; } = "";

    /// <summary>Whether the true cause is written down at the end.</summary>
    public bool Concludes { get; init; }

    public IReadOnlyList<Instrument> Instruments { get; init; } = [];

    /// <summary>Signs that are looked for at a part and are not there.</summary>
    public int LooksInVain { get; init; } = 1;
}

/// <summary>
/// An engine that never was, stripped, looked at and measured as far as a plan says: for the demo, and to fill a shop with work so that its speed can be
/// measured. What is found follows from the causes as they are written; figures lie about their limits. It is a check of nothing.
/// </summary>
public static partial class InventedCase
{
    /// <summary>Of so many parts that show nothing one is written down as looked at.</summary>
    private const int WritesOneOf = 5;

    /// <summary>Works a case that has just begun; what it has already stays.</summary>
    /// <returns>The causes that the engine has.</returns>
    public static IReadOnlyList<TrueCause> Work(EngineCase begun, InventionPlan plan, KnowledgeBase knowledge)
    {
        var hand = new Hand(begun, plan, knowledge);
        var sections = HoldSections.Of(new StripBook(begun.StripLog(), hand.Table, knowledge));
        for (var n = 0; n < sections.Count && n <= plan.Sections; n++)
        {
            var last = n == Math.Min(plan.Sections, sections.Count) - 1;
            foreach (var step in n < plan.Sections ? sections[n].Steps : sections[n].Steps.Take(plan.Steps))
            {
                hand.Do(step);
            }

            if (n < plan.Sections && sections[n].Hold is { } hold)
            {
                hand.Settle(hold, waits: last && plan.Waits, sentBack: last ? plan.SentBack : "");
            }
        }

        if (plan.Concludes && hand.Drawn.Causes is [var cause, ..])
        {
            hand.Add(
                begun.Conclusions,
                new Conclusion
                {
                    Cause = cause.Cause,
                    Place = cause.Place,
                    Confidence = Confidence.Proven,
                    Reasons = hand.Proof(),
                },
                "conclusion"
            );
        }

        return hand.Drawn.Causes;
    }

    private sealed class Hand(EngineCase of, InventionPlan plan, KnowledgeBase knowledge)
    {
        private readonly Random _random = new(plan.Seed);
        private readonly HashSet<string> _seen = new(StringComparer.Ordinal);
        private DateTimeOffset _now = plan.Start;
        private int _turn;

        public AddressTable Table { get; } = of.Places();

        public DrawnCase Drawn { get; } = Draw(of.Layout, plan.Seed, knowledge);

        /// <summary>How far the engine is worn: 0 as new, 1 at its limits.</summary>
        private readonly double _wear = 0.15 + (0.5 * new Random(plan.Seed + 1).NextDouble());

        private static DrawnCase Draw(EngineLayout layout, int seed, KnowledgeBase knowledge)
        {
            for (var n = 0; ; n++)
            {
                if (DrawnCase.Draw(layout, knowledge, seed + (n * 1_000_003)) is { Causes.Count: > 0 } drawn)
                {
                    return drawn;
                }
            }
        }

        public T Add<T>(List<T> to, T record, string name, string? by = null)
            where T : CaseRecord
        {
            record.Id = DerivedId.Of(of.Id, $"{typeof(T).Name}/{name}");
            record.CaseId = of.Id;
            record.By = by ?? plan.People[_turn % plan.People.Count];
            record.At = _now;
            record.Version = 1;
            to.Add(record);
            return record;
        }

        public void Do(StripStep step)
        {
            _turn++;
            for (var item = 0; item < step.Ticks.Count; item++)
            {
                Add(
                    of.StepMarks,
                    new StepMark
                    {
                        Step = step.Id,
                        Kind = StepMarkKind.Ticked,
                        Item = item,
                    },
                    $"{step.Id}/{item}"
                );
            }

            foreach (var set in FastenerLedger.Of(step, Table.Engine, []).Where(s => s.Expected > 0))
            {
                Add(
                    of.FastenerMoves,
                    new FastenerMove
                    {
                        Step = step.Id,
                        Set = set.Set.Id,
                        State = FastenerState.Out,
                        Count = set.Expected,
                        Keeping = Keeping.Bag,
                        Where = step.Name,
                    },
                    $"{step.Id}/{set.Set.Id}"
                );
            }

            _now += plan.Pace;
            Add(of.Steps, new StepRecord { Step = step.Id, State = StepState.Done }, step.Id);
            foreach (var kind in step.Exposes.Concat(step.Releases).Where(_seen.Add))
            {
                foreach (var place in Table.OfKind(kind))
                {
                    Look(place.Code);
                }

                Measure(kind);
            }
        }

        public void Settle(StripStep hold, bool waits, string sentBack)
        {
            _now += plan.Pace;
            if (waits && sentBack.Length == 0)
            {
                return;
            }

            Add(
                of.SignOffs,
                new SignOff
                {
                    Step = hold.Id,
                    Outcome = sentBack.Length > 0 ? SignOutcome.SentBack : SignOutcome.Signed,
                    Role = plan.Signer.Role,
                    Seen = new StripBook(of.StripLog(), Table, knowledge).Seen(hold.Id),
                    Note = sentBack,
                },
                hold.Id,
                plan.Signer.Name
            );
        }

        /// <summary>Whoever looks writes what is there, and some of what is not.</summary>
        private void Look(string place)
        {
            var signs = Drawn.Signs.Where(s => s.Place == place).ToArray();
            var there = signs.Where(s => Drawn.Look(s.Sign, s.Place) > 0).ToArray();
            // Where nothing is, not every part is written down.
            var inVain = there.Length > 0 || _random.Next(WritesOneOf) == 0 ? plan.LooksInVain : 0;
            foreach (var (sign, at) in there.Concat(signs.Except(there).Take(inVain)))
            {
                var found = Drawn.Found(sign, at);
                _now += TimeSpan.FromMinutes(1);
                Add(of.Findings, found, $"{at}/{sign}");
            }
        }

        private void Measure(string kind)
        {
            foreach (var limit in of.Limits.Where(l => l.Stands()).ToArray())
            {
                var what = knowledge.Characteristic(limit.Characteristic);
                if (
                    what is null or { Derived: true }
                    || !(limit.On.Length > 0 ? limit.On == kind : what.On.Contains(kind))
                    || !what.Applies.Fits(of.Layout)
                )
                {
                    continue;
                }

                foreach (var place in Table.OfKind(kind))
                {
                    var worn = _wear * (0.7 + (0.6 * _random.NextDouble()));
                    foreach (var station in what.Stations.DefaultIfEmpty(""))
                    {
                        foreach (var direction in what.Directions.Keys.DefaultIfEmpty(""))
                        {
                            Read(limit, what, place.Code, station, direction, station == what.UnwornAt && station.Length > 0 ? 0 : worn);
                        }
                    }
                }
            }
        }

        private void Read(Limit limit, KnownCharacteristic what, string place, string station, string direction, double worn)
        {
            var fresh = (double)(limit.Nominal ?? (limit.Least + limit.Most) / 2 ?? limit.Most ?? limit.Least ?? limit.Wear ?? 1);
            var end = (double)(limit.Wear ?? limit.Most ?? limit.Least ?? (decimal)fresh);
            var digits = what.Gap ? 2 : 3;
            var value = Math.Round((decimal)(fresh + (worn * (end - fresh)) + (0.002 * (_random.NextDouble() - 0.5))), digits);
            _now += TimeSpan.FromSeconds(40);
            Add(
                of.Readings,
                new Reading
                {
                    Place = place,
                    Characteristic = limit.Characteristic,
                    Station = station,
                    Direction = direction,
                    Typed = value.ToString(CultureInfo.InvariantCulture),
                    Value = value,
                    Unit = QuantityParser.BaseUnit(what.Quantity),
                    Instrument = With(what, (double)value),
                },
                $"{place}/{limit.Characteristic}/{station}/{direction}"
            );
        }

        /// <summary>The instrument of the shop that does for it; empty where it has none.</summary>
        private string With(KnownCharacteristic what, double value) =>
            plan.Instruments.FirstOrDefault(i =>
                what.By.Contains(i.Kind)
                && (Range().Match(i.Name) is not { Success: true } range || (value >= End(range, "from") && value <= End(range, "to")))
            )?.Name
            ?? "";

        private static double End(Match range, string which) => double.Parse(range.Groups[which].Value, CultureInfo.InvariantCulture);

        /// <summary>The worst that was found, as reasons are written.</summary>
        public string Proof() =>
            string.Join(
                ", ",
                of.Findings.Where(f => f.Level > 0)
                    .OrderByDescending(f => f.Level)
                    .ThenBy(f => f.Place, StringComparer.Ordinal)
                    .Take(3)
                    .Select(f => $"{knowledge.Sign(f.Sign)?.Name} {f.Place}")
            );
    }

    [GeneratedRegex("(?<from>[0-9.]+)–(?<to>[0-9.]+)$", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Range();
}

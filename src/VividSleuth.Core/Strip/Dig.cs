using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Strip;

/// <param name="Share">What part of the step is needed: one station of several, or all of it (1).</param>
public sealed record DigStep(string Id, string Name, Attitude Attitude, double Minutes, double Share);

/// <summary>The least work that lays one place open.</summary>
/// <param name="By">Id of the step that lays it open; empty when it lies open already.</param>
/// <param name="Variant">Name of another way by which it is less than by the steps as planned; empty where it is not.</param>
/// <param name="VariantId">Its id, for choosing it.</param>
/// <param name="Steps">What is left to do, in order.</param>
/// <param name="Fasteners">How many must come out.</param>
/// <param name="Turns">How often the engine is turned.</param>
public sealed record DigPlan(
    string Target,
    string By,
    string Variant,
    string VariantId,
    IReadOnlyList<DigStep> Steps,
    double Minutes,
    int Fasteners,
    int Turns,
    Fact Words
);

/// <summary>Finds what must come off, and no more, to see one part.</summary>
public static class Digger
{
    /// <summary>
    /// For every step that lays the target open, as the strip is planned and by each other way that can still be chosen: it and all that must come
    /// before, without what is done or was off. The cheapest in minutes is taken. Of a step that is done one by one only the station that is on the
    /// way counts, as long as nothing that needs all of it is on the way as well. With precedences that must all hold, the steps before are the same
    /// whichever way one digs, so this is the least.
    /// </summary>
    /// <exception cref="ProblemException">No step of this strip lays it open.</exception>
    public static DigPlan To(string target, StripLog log, AddressTable table, KnowledgeBase knowledge)
    {
        var place = table.Parse(target, "target");
        var book = new StripBook(log, table, knowledge);
        var opens = Opens(book, place);
        if (opens.FirstOrDefault(s => book.Standing(s.Id).Frees(s, StepStations.At(s, place, table.Engine)) && book.Standing(s.Id).Begun) is { } open)
        {
            return new DigPlan(place.Code, "", "", "", [], 0, 0, 0, Fact.Of("strip.lies-open-since", ("place", place.Code), ("step", open.Name)));
        }

        var ways = book
            .Variants.Where(v => v is { Chosen: false, Refused: null })
            .Select(v => (Book: new StripBook(log with { Variants = [.. log.Variants, v.Id] }, table, knowledge), Way: v))
            .Prepend((Book: book, Way: new VariantChoice("", "", "", true, false, Fact.None)))
            .SelectMany(w => Opens(w.Book, place).Select(s => (w.Book, w.Way, Last: s, Needed: Needed(s, place, w.Book, table.Engine))))
            // What was left out keeps closed what is behind it: digging goes through it all the same, and counts it.
            .Select(
                (w, i) => (w.Book, w.Way, w.Last, w.Needed, Minutes: w.Needed.Sum(n => n.Share * StripPlanner.MinutesOf(n.Step, table.Engine)), At: i)
            )
            .ToArray();
        if (ways.Length == 0)
        {
            throw new ProblemException(Problem.Of("target", "strip.no-step-lays-open", ("place", place.Code)));
        }

        var best = ways.MinBy(w => (w.Minutes, w.At));
        var steps = best.Book.Steps;
        var lies = log.Steps.Where(s => s.Stands()).OrderBy(s => s.At).Select(s => best.Book.Step(s.Step)).LastOrDefault(s => s is not null);
        StripStep[] needed = [.. best.Needed.Select(n => n.Step)];
        var order = StripPlanner.Order(needed, StripPlanner.ToolNumbers(steps), new Setup((int)(lies?.Attitude ?? Attitude.Upright), -1, -1));
        var shares = best.Needed.ToDictionary(n => n.Step.Id, n => n.Share, StringComparer.Ordinal);
        var inOrder = order
            .Order.Select(i => needed[i])
            .Select(s => new DigStep(s.Id, s.Name, s.Attitude, shares[s.Id] * StripPlanner.MinutesOf(s, table.Engine), shares[s.Id]))
            .ToArray();
        var fasteners = needed.Sum(s =>
            s.Fasteners.Sum(f =>
            {
                var expected = FastenerLedger.Expected(f, table.Engine);
                return shares[s.Id] < 1 && f.Per == s.Per ? (int)Math.Round(expected * shares[s.Id]) : expected;
            })
        );
        return new DigPlan(
            place.Code,
            best.Last.Id,
            best.Way.Name,
            best.Way.Id,
            inOrder,
            best.Minutes,
            fasteners,
            order.Cost.Turns,
            Fact.Of(
                "strip.dig",
                ("steps", inOrder.Length),
                ("minutes", new Number(best.Minutes)),
                ("fasteners", fasteners),
                ("turns", order.Cost.Turns == 0 ? Fact.Of("strip.not-turned") : Fact.Of("strip.turned", ("times", order.Cost.Turns)))
            )
        );
    }

    /// <summary>Minutes of work that lay a place open as the strip is planned; 0 where it lies open, or where no step opens it.</summary>
    public static double MinutesTo(Address place, StripBook book, Engine engine)
    {
        var opens = Opens(book, place);
        return
            place.Kind.Outside
            || opens.Count == 0
            || opens.Any(s => book.Standing(s.Id).Begun && book.Standing(s.Id).Frees(s, StepStations.At(s, place, engine)))
            ? 0
            : opens.Min(s => Needed(s, place, book, engine).Sum(n => n.Share * StripPlanner.MinutesOf(n.Step, engine)));
    }

    private static IReadOnlyList<StripStep> Opens(StripBook book, Address place) =>
        [.. book.Steps.Where(s => s.Exposes.Contains(place.Kind.Id) || s.Releases.Contains(place.Kind.Id))];

    /// <summary>
    /// The steps that lay a place open, each with the share of it that is needed: one station of several, or all of it.
    /// </summary>
    private static IReadOnlyList<(StripStep Step, double Share)> Needed(StripStep last, Address place, StripBook book, Engine engine)
    {
        // 0 is the step as a whole. What is needed as a whole stays so.
        var stations = new Dictionary<string, HashSet<int>>(StringComparer.Ordinal);
        var open = new Queue<(StripStep Step, int Station)>([(last, StepStations.At(last, place, engine))]);
        while (open.TryDequeue(out var next))
        {
            var (step, station) = next;
            if (
                book.Standing(step.Id).Frees(step, station)
                || !(stations.TryGetValue(step.Id, out var known) ? known : stations[step.Id] = []).Add(station)
            )
            {
                continue;
            }

            foreach (var before in step.After.Keys.Select(book.Step).OfType<StripStep>())
            {
                var within =
                    station > 0 && StepStations.Of(before, engine).Count > 0 ? StepStations.Within(step.Per, station, before.Per, engine) : 0;
                open.Enqueue((before, within));
            }
        }

        return
        [
            .. book
                .Steps.Where(s => stations.ContainsKey(s.Id))
                .Select(s =>
                {
                    var all = StepStations.Of(s, engine).Count;
                    var done = book.Standing(s.Id).Stations.Count;
                    return (s, all == 0 ? 1 : (double)(stations[s.Id].Contains(0) ? all - done : stations[s.Id].Count) / all);
                }),
        ];
    }
}

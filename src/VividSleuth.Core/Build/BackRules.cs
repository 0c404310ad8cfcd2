using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Build;

/// <summary>What may be recorded at a step of the way back.</summary>
public static class BackRules
{
    /// <summary>What is wrong with an act; nothing of one that may stand.</summary>
    /// <param name="task">The step as it stands; null where the plan has none, or where it is through.</param>
    /// <param name="by">Who records it.</param>
    /// <param name="mayPass">Whether whoever records it may pass a gate in this shop.</param>
    public static IEnumerable<Problem> Check(BackAct act, ArisingTask? task, BackBook book, AddressTable table, string by, bool mayPass)
    {
        if (task?.Way is not { } way)
        {
            return [Problem.Of("step", "build.act.no-such-step", ("step", act.Step))];
        }

        return act.Kind switch
        {
            BackActKind.Fitted => MateGate.Check(act, way.Parts, book, table),
            BackActKind.TakenOut => Need(
                way.Parts.Any(p => p.Place == act.Of && p.In is not null),
                Problem.Of("of", "build.act.not-in", ("place", act.Of))
            ),
            BackActKind.Ticked or BackActKind.Unticked => Need(
                way.Ticks.Any(t => t.Text == act.Of) || way.Finds.Any(f => f.Key == act.Of),
                Problem.Of("of", "build.act.no-such-tick", ("tick", act.Of))
            ),
            BackActKind.Covered => Need(!string.IsNullOrWhiteSpace(act.Of), Problem.Of("of", "build.act.cover-what")),
            BackActKind.Uncovered => Need(
                way.Covers.Any(c => c.Text == act.Of && c.Done),
                Problem.Of("of", "build.act.not-covered", ("cover", act.Of))
            ),
            BackActKind.Tightened => Tightened(act, way),
            BackActKind.Checked => Seen(act, way, by),
            BackActKind.Passed => Passed(act, way, mayPass),
            BackActKind.Ran => Ran(act, way, book),
            _ => throw new ArgumentOutOfRangeException(nameof(act), act.Kind, null),
        };
    }

    /// <summary>New fasteners are counted off the order that brought them, and no more of them than came; null where nothing is wrong.</summary>
    public static Problem? CheckNew(FastenerMove move, StripStep step, BackBook book)
    {
        var set = step.Fasteners.Single(f => f.Id == move.Set);
        var lines = book.LinesOf(set).ToArray();
        if (move.Line is not { } id)
        {
            return lines.Any(l => BackBook.LetIn(book.Line(l.Id)) && book.Fasteners(l.Id)?.Left > 0)
                    ? Problem.Of("line", "build.new.which-line", ("set", set.Name), ("lines", lines.Select(l => l.What).ToArray()))
                : Array.Find(lines, l => !BackBook.LetIn(book.Line(l.Id))) is { } unchecked_
                    ? Problem.Of("line", "build.fit.unchecked", ("what", unchecked_.What), ("stage", book.Line(unchecked_.Id)!.Stage))
                : null;
        }

        return Array.Find(lines, l => l.Id == id) is not { } line ? Problem.Of("line", "build.new.line-of-another", ("set", set.Name))
            : book.Fasteners(id) is not { } came ? Problem.Of("line", "build.fit.unchecked", ("what", line.What), ("stage", book.Line(id)!.Stage))
            : came.Left < move.Count
                ? Problem.Of(
                    "count",
                    "build.new.more-than-came",
                    ("what", line.What),
                    ("left", new Number((double)came.Left)),
                    ("came", new Number((double)came.Came))
                )
            : null;
    }

    private static IEnumerable<Problem> Tightened(BackAct act, WayBack way)
    {
        if (way.Sets.FirstOrDefault(s => s.Set == act.Of) is not { } set)
        {
            yield return Problem.Of("of", "strip.set-fasteners-step", ("set", act.Of));
            yield break;
        }

        if (set.How is not { } how)
        {
            yield return Problem.Of("of", "build.act.figure-missing", ("set", set.Name));
            yield break;
        }

        if (set.Out + set.Broken > 0)
        {
            yield return Problem.Of("of", "build.act.holes-empty", ("set", set.Name), ("count", set.Out + set.Broken));
        }

        if (set.Fresh && set.New < set.Expected && act.Pass == how.Passes.Count && !how.Passes[^1].Loosen && act.Pass > 0)
        {
            // Old ones may be pulled down to measure a housing, and not for good.
            yield return Problem.Of("of", "build.act.old-ones", ("set", set.Name), ("count", set.Expected - set.New));
        }

        if (act.Pass < 1 || act.Pass > how.Passes.Count)
        {
            yield return Problem.Of("pass", "build.act.no-such-pass", ("pass", act.Pass), ("passes", how.Passes.Count));
        }
        else if (act.Pass > set.Pass + 1)
        {
            yield return Problem.Of("pass", "build.act.pass-before", ("pass", set.Pass + 1));
        }
    }

    private static IEnumerable<Problem> Seen(BackAct act, WayBack way, string by)
    {
        if (way.Sets.FirstOrDefault(s => s.Set == act.Of) is not { } set)
        {
            yield return Problem.Of("of", "strip.set-fasteners-step", ("set", act.Of));
        }
        else if (set.Stands is not (SetStands.Tight or SetStands.Checked) || set.Pass == 0)
        {
            yield return Problem.Of("of", "build.act.not-tight", ("set", set.Name));
        }
        else if (set.TightBy == by)
        {
            yield return Problem.Of("by", "build.act.other-eyes", ("set", set.Name), ("by", by));
        }
    }

    private static IEnumerable<Problem> Passed(BackAct act, WayBack way, bool mayPass)
    {
        if (way.Stops.FirstOrDefault(s => s.Key == act.Of) is not { } stop)
        {
            yield return Problem.Of("of", "build.act.no-such-gate", ("gate", act.Of));
            yield break;
        }

        if (!stop.MayPass)
        {
            yield return new Problem("of", Fact.Of("build.act.stays-shut", ("why", stop.Text)), stop.Remedy);
        }
        else if (!mayPass)
        {
            yield return new Problem("of", stop.Text, Fact.Of("strip.only-who-may-opens"));
        }

        if (string.IsNullOrWhiteSpace(act.Why))
        {
            yield return Problem.Of("why", "build.act.why");
        }
        else if (way.Stops.Any(s => s.Key != act.Of && s.Passed.Equals(act.Why, StringComparison.OrdinalIgnoreCase)))
        {
            yield return Problem.Of("why", "build.act.one-reason-each");
        }
    }

    private static IEnumerable<Problem> Ran(BackAct act, WayBack way, BackBook book)
    {
        if (way.Hours is null)
        {
            yield return Problem.Of("step", "build.ran.not-by-hours");
        }
        else if (act.Hours is not { } hours || hours < 0)
        {
            yield return Problem.Of("hours", "build.ran.how-long");
        }
        else if (book.Ran?.Hours is { } before && hours < before)
        {
            yield return Problem.Of("hours", "build.ran.less-than-before", ("before", new Number((double)before)), ("by", book.Ran.By));
        }
    }

    private static IEnumerable<Problem> Need(bool holds, Problem problem) => holds ? [] : [problem];
}

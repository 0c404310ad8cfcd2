using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Build;

/// <summary>What a task, a wait and a promise may be.</summary>
public static class BuildRules
{
    /// <summary>Hours that a task may take at the most: two years.</summary>
    public const decimal MostHours = 17_520;

    /// <summary>Tasks that a step waits for and that are named.</summary>
    private const int Told = 4;

    /// <summary>Kinds that somebody may add; the others arise by themselves.</summary>
    public static IReadOnlyList<TaskKind> Added { get; } =
    [TaskKind.Own, TaskKind.Owner, TaskKind.Helper, TaskKind.Tool, TaskKind.Signature, TaskKind.OnPurpose, TaskKind.Away];

    /// <summary>Kinds that are through when the record says so, and not because somebody marks them.</summary>
    private static readonly Dictionary<TaskKind, string> ThroughBy = new()
    {
        [TaskKind.Strip] = "build.through-by-strip",
        [TaskKind.Look] = "build.through-by-look",
        [TaskKind.Measure] = "build.through-by-gauge",
        [TaskKind.Decide] = "build.through-by-verdict",
        [TaskKind.Signature] = "build.through-by-strip",
        [TaskKind.Send] = "build.through-by-verdict",
        [TaskKind.Away] = "build.through-by-verdict",
        [TaskKind.Check] = "build.through-by-verdict",
    };

    /// <summary>What is wrong with a record; nothing of one that may stand.</summary>
    /// <param name="arising">What the plan has, without this record.</param>
    /// <param name="gone">Keys of what was in it and is through, or left out.</param>
    public static IEnumerable<Problem> Check(BuildTask task, IReadOnlyList<ArisingTask> arising, IReadOnlySet<string> gone)
    {
        var byKey = arising.ToDictionary(t => t.Key, StringComparer.Ordinal);
        if (task.Of.Length == 0 && string.IsNullOrWhiteSpace(task.Name))
        {
            yield return Problem.Of("name", "build.needs-a-name");
        }

        if (task.Of.Length == 0 && !Added.Contains(task.Kind))
        {
            yield return Problem.Of("kind", "build.arises-by-itself");
        }

        if (task.Of.StartsWith("own/", StringComparison.Ordinal))
        {
            yield return Problem.Of("of", "build.change-the-record-itself");
        }

        decimal?[] three = [task.Least, task.Likely, task.Most];
        if (three.Any(t => t is not null) && three.Any(t => t is null))
        {
            yield return Problem.Of("likely", "build.all-three");
        }
        else if (three.Any(t => t is < 0 or > MostHours) || task.Least > task.Likely || task.Likely > task.Most)
        {
            yield return Problem.Of(
                "likely",
                "build.spell-out-of-order",
                ("least", (double?)task.Least),
                ("likely", (double?)task.Likely),
                ("most", (double?)task.Most)
            );
        }

        if (task.Hands is < 0 or > ShopWork.MostOfAKind)
        {
            yield return Problem.Of("hands", "build.hands-cannot-be", ("most", ShopWork.MostOfAKind));
        }

        if (task.WarmerThan is < -90 or > 60)
        {
            yield return Problem.Of("warmerThan", "build.degrees-cannot-be");
        }

        if (task.After.Concat(task.Holds).FirstOrDefault(k => !byKey.ContainsKey(k) && !gone.Contains(k) && k != task.Key()) is { } nothing)
        {
            yield return Problem.Of("after", "build.waits-for-no-task", ("waits", nothing));
            yield break;
        }

        if (
            task.Of.Length > 0
            && task.Mark == TaskMark.Through
            && byKey.TryGetValue(task.Of, out var marked)
            && ThroughBy.TryGetValue(marked.Kind, out var code)
        )
        {
            yield return Problem.Of("mark", code, ("task", marked.Name));
        }

        if (task.Mark == TaskMark.Through && byKey.GetValueOrDefault(task.Of) is { Way: { } way } back)
        {
            // Nothing talks a step of the way back through: what it waits for is through, or somebody left that out for a reason of its own.
            if (back.After.Where(byKey.ContainsKey).Select(k => byKey[k].Name).ToArray() is { Length: > 0 } open)
            {
                yield return Problem.Of(
                    "mark",
                    "build.back-waits",
                    ("step", back.Name),
                    ("tasks", open.Take(Told).ToArray()),
                    ("more", open.Length > Told ? open.Length - Told : null)
                );
            }

            foreach (var stop in way.Stops.Where(s => s.Shut))
            {
                yield return new Problem("mark", stop.Text, stop.Remedy);
            }
        }

        var with = With(task, arising);
        if (Circle(with) is { } circle)
        {
            var names = with.ToDictionary(t => t.Key, t => t.Name, StringComparer.Ordinal);
            yield return Problem.Of("after", "build.waits-in-a-circle", ("tasks", circle.Select(k => names[k]).ToArray()));
        }
    }

    /// <summary>What is wrong with a promise; nothing of one that may stand.</summary>
    public static IEnumerable<Problem> Check(BuildPromise promise, DateOnly today)
    {
        if (promise.Day < today.AddYears(-1) || promise.Day > today.AddYears(10))
        {
            yield return Problem.Of("day", "build.promise-cannot-be", ("day", promise.Day));
        }
    }

    /// <summary>Keys of tasks that wait for each other in a circle, from the first back to it; null where none do.</summary>
    internal static IReadOnlyList<string>? Circle(IReadOnlyList<ArisingTask> tasks)
    {
        return WaitCircle.Of([.. tasks.Select(t => t.Key)], tasks.ToDictionary(t => t.Key, t => t.After, StringComparer.Ordinal));
    }

    /// <summary>Tasks as they wait with a record among them.</summary>
    private static IReadOnlyList<ArisingTask> With(BuildTask task, IReadOnlyList<ArisingTask> arising)
    {
        var key = task.Key();
        var others = arising.Where(t => t.Key != key);
        var own =
            arising.FirstOrDefault(t => t.Key == key)
            ?? new ArisingTask(key, task.Kind, Fact.Text(task.Name), Spell.Always(0), SpellFrom.Thumb, 0, 0, [], [], []);
        return
        [
            .. others.Select(t => task.Holds.Contains(t.Key) ? t with { After = [.. t.After, key] } : t),
            own with
            {
                After = [.. own.After.Union(task.After, StringComparer.Ordinal)],
            },
        ];
    }
}

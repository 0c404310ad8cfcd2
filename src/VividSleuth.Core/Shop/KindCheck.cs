using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Shop;

/// <summary>What is wrong with the sheet of a kind, thing by thing: what is not named may stand without the rest.</summary>
public static class KindCheck
{
    /// <summary>So many figures, lists or services a kind may have of each.</summary>
    public const int MostOfEach = 1000;

    /// <returns>The problems; the field names the thing as the file does: limits[3].most.</returns>
    public static IReadOnlyList<Problem> Of(KindSheet sheet, KnowledgeBase knowledge)
    {
        var whole = Whole(sheet, knowledge).ToArray();
        return whole.Length > 0 ? whole : [.. Things(sheet, Reader(sheet, knowledge)).SelectMany(t => t.Problems)];
    }

    /// <summary>The sheet without what is wrong in it, and what was. A sheet that is wrong as a whole is null.</summary>
    public static (KindSheet? Good, IReadOnlyList<Problem> Problems) Sift(KindSheet sheet, KnowledgeBase knowledge)
    {
        var whole = Whole(sheet, knowledge).ToArray();
        if (whole.Length > 0)
        {
            return (null, whole);
        }

        var bad = Things(sheet, Reader(sheet, knowledge)).Where(t => t.Problems.Count > 0).ToArray();
        bool Good(object thing) => !Array.Exists(bad, b => ReferenceEquals(b.Thing, thing));
        return (
            sheet with
            {
                Name = sheet.Name.Trim(),
                Limits = [.. sheet.Limits.Where(Good)],
                Sizes = [.. sheet.Sizes.Where(Good)],
                Tightenings = [.. sheet.Tightenings.Where(Good)],
                Notes = [.. sheet.Notes.Where(Good)],
                Services = [.. sheet.Services.Where(Good)],
            },
            [.. bad.SelectMany(b => b.Problems)]
        );
    }

    /// <summary>An engine of the kind with nothing entered, by which the script and its fasteners are known.</summary>
    public static CaseReader Reader(KindSheet sheet, KnowledgeBase knowledge) =>
        new(
            new EngineCase
            {
                Layout = sheet.Layout,
                EngineName = sheet.Name,
                Script = sheet.Script,
                Variants = [.. sheet.Variants],
            },
            knowledge,
            [],
            DateOnly.MinValue
        );

    private static IEnumerable<Problem> Whole(KindSheet sheet, KnowledgeBase knowledge)
    {
        if (string.IsNullOrWhiteSpace(sheet.Name))
        {
            yield return Problem.Of("name", "shop.kind-needs-name");
        }
        else if (sheet.Name.Contains(','))
        {
            // What stands before the first comma of an engine’s name is its kind.
            yield return Problem.Of("name", "shop.kind-name-has-comma");
        }

        foreach (var problem in sheet.Layout.Check())
        {
            yield return problem with
            {
                Field = $"layout.{problem.Field}",
            };
        }

        if (sheet.Stroke is <= 0 or > 5000)
        {
            yield return Problem.Of("stroke", "shop.length-cannot-be");
        }

        if (sheet.RodLength is <= 0 or > 10_000)
        {
            yield return Problem.Of("rodLength", "shop.length-cannot-be");
        }

        if (sheet.Script.Length > 0 && knowledge.Script(sheet.Script) is null)
        {
            yield return Problem.Of("script", "shop.no-such-script", ("script", sheet.Script));
        }

        foreach (
            var (field, count) in new[]
            {
                ("limits", sheet.Limits.Count),
                ("sizes", sheet.Sizes.Count),
                ("tightenings", sheet.Tightenings.Count),
                ("notes", sheet.Notes.Count),
                ("services", sheet.Services.Count),
            }
        )
        {
            if (count > MostOfEach)
            {
                yield return Problem.Of(field, "shop.too-many-of-it", ("most", MostOfEach));
            }
        }
    }

    private static IEnumerable<(object Thing, IReadOnlyList<Problem> Problems)> Things(KindSheet sheet, CaseReader like)
    {
        var keys = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (n, limit) in sheet.Limits.Index())
        {
            yield return Thing(limit, $"limits[{n}]", [.. limit.Check(like.Knowledge), .. Once(KindItems.KeyOf(limit))]);
        }

        foreach (var (n, sizes) in sheet.Sizes.Index())
        {
            yield return Thing(sizes, $"sizes[{n}]", [.. sizes.Check(like.Knowledge), .. Once(KindItems.KeyOf(sizes))]);
        }

        foreach (var (n, how) in sheet.Tightenings.Index())
        {
            yield return Thing(how, $"tightenings[{n}]", [.. how.Check(ExpectedOf(how.Step, how.Set, like)), .. Once(KindItems.KeyOf(how))]);
        }

        foreach (var (n, note) in sheet.Notes.Index())
        {
            yield return Thing(
                note,
                $"notes[{n}]",
                [.. string.IsNullOrWhiteSpace(note.Text) ? [Problem.Of("text", "shop.note-is-empty")] : Array.Empty<Problem>()]
            );
        }

        foreach (var (n, service) in sheet.Services.Index())
        {
            yield return Thing(service, $"services[{n}]", [.. Of(service), .. Once($"service/{service.Id}")]);
        }

        static (object, IReadOnlyList<Problem>) Thing(object thing, string field, Problem[] problems) =>
            (thing, [.. problems.Select(p => p with { Field = $"{field}.{p.Field}" })]);

        IEnumerable<Problem> Once(string key) => keys.Add(key) ? [] : [Problem.Of("", "shop.said-twice")];
    }

    /// <summary>How many fasteners a set of the script has in such an engine; null where the step has no such set.</summary>
    public static int? ExpectedOf(string step, string set, CaseReader like) =>
        like.Book.Step(step)?.Fasteners.Find(f => f.Id == set) is { } known ? FastenerLedger.Expected(known, like.Table.Engine) : null;

    private static IEnumerable<Problem> Of(KindService service)
    {
        if (string.IsNullOrWhiteSpace(service.What) || string.IsNullOrWhiteSpace(service.Id))
        {
            yield return Problem.Of("what", "shop.service-needs-name");
        }

        if (service is { Ordinary: null, Race: null, Standby: null, Months: null })
        {
            yield return Problem.Of("ordinary", "shop.service-never-due");
        }

        foreach (var (field, hours) in new[] { ("ordinary", service.Ordinary), ("race", service.Race), ("standby", service.Standby) })
        {
            if (hours is <= 0 or > 1_000_000)
            {
                yield return Problem.Of(field, "shop.service-hours-cannot-be");
            }
        }

        if (service.Months is <= 0 or > 600)
        {
            yield return Problem.Of("months", "shop.service-months-cannot-be");
        }

        if (string.IsNullOrWhiteSpace(service.SourceText))
        {
            yield return Problem.Of("sourceText", "shop.service-needs-source");
        }
    }
}

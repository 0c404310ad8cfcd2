using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Server.Casebook;

namespace VividSleuth.Server.Build;

public sealed record BuildTaskEntry(
    Guid Id,
    int Version,
    string Of,
    TaskKind Kind,
    string Name,
    decimal? Least,
    decimal? Likely,
    decimal? Most,
    int? Hands,
    IReadOnlyList<string> Tools,
    IReadOnlyList<string> After,
    IReadOnlyList<string> Holds,
    DateOnly? NotBefore,
    DateOnly? Expected,
    bool ByItself,
    bool Dry,
    decimal? WarmerThan,
    TaskMark Mark,
    string Note
);

public sealed record BuildPromiseEntry(Guid Id, DateOnly Day, string To, string Note);

/// <summary>Tasks and waits that somebody adds or changes, and the day that was promised.</summary>
public static class BuildEndpoints
{
    public static void MapBuild(this RouteGroupBuilder api)
    {
        var tasks = api.MapGroup("/cases/{caseId:guid}/build-tasks").WithTags("build").RequireAuthorization(Policies.Write);
        tasks.MapPost("", AddAsync).ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        tasks
            .MapPut("/{id:guid}", ChangeAsync)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        tasks.MapWithdraw<BuildTask>("");
        var promises = api.MapGroup("/cases/{caseId:guid}/build-promises").WithTags("build").RequireAuthorization(Policies.Write);
        promises.MapPost("", PromiseAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        promises.MapWithdraw<BuildPromise>("");
    }

    private static async Task<BuildTask> AddAsync(Guid caseId, BuildTaskEntry entry, Recorder recorder, BuildDesk desk, CancellationToken cancel)
    {
        var setting = await desk.SettingAsync(cancel);
        var task = new BuildTask { Id = entry.Id };
        Fill(task, entry);
        return await recorder.AddCheckedAsync(
            caseId,
            task,
            r =>
                // Somebody else changed the same task a moment ago: both are shown.
                r.Case.BuildTasks.Find(t => t.Stands() && t.Of.Length > 0 && t.Of == task.Of)
                    is { } standing
                    ? throw new ConflictException(entry, standing)
                    : Check(r, task, setting),
            cancel
        );
    }

    private static async Task<BuildTask> ChangeAsync(
        Guid caseId,
        Guid id,
        BuildTaskEntry entry,
        Recorder recorder,
        BuildDesk desk,
        CancellationToken cancel
    )
    {
        var setting = await desk.SettingAsync(cancel);
        return await recorder.UpdateCheckedAsync<BuildTask>(
            caseId,
            id,
            entry.Version,
            entry,
            t => Fill(t, entry),
            (r, t) => Check(r, t, setting),
            cancel
        );
    }

    private static IEnumerable<Problem> Check(CaseReader reader, BuildTask task, BuildSetting setting)
    {
        var before = reader.Case.BuildTasks.Where(t => t.Id == task.Id);
        var gone = BuildTask
            .Latest(reader.Case.BuildTasks)
            .Values.Where(t => t.Mark is TaskMark.Through or TaskMark.LeftOut)
            .Select(t => t.Key())
            // What it waited for when it was last written is let pass: it may be through by the record meanwhile.
            .Concat(before.SelectMany(t => t.After.Concat(t.Holds)))
            .ToHashSet(StringComparer.Ordinal);
        return BuildRules.Check(task, reader.Arises(setting.Work, setting.Clocks, setting.Now, without: task.Id), gone);
    }

    private static void Fill(BuildTask task, BuildTaskEntry entry)
    {
        task.Of = entry.Of;
        task.Kind = entry.Kind;
        task.Name = entry.Name.Trim();
        (task.Least, task.Likely, task.Most) = (entry.Least, entry.Likely, entry.Most);
        task.Hands = entry.Hands;
        task.Tools = [.. entry.Tools.Select(t => t.Trim()).Where(t => t.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)];
        task.After = [.. entry.After.Distinct(StringComparer.Ordinal)];
        task.Holds = [.. entry.Holds.Distinct(StringComparer.Ordinal)];
        task.NotBefore = entry.NotBefore;
        task.Expected = entry.Expected;
        task.ByItself = entry.ByItself;
        task.Dry = entry.Dry;
        task.WarmerThan = entry.WarmerThan;
        task.Mark = entry.Mark;
        task.Note = entry.Note.Trim();
    }

    private static async Task<BuildPromise> PromiseAsync(
        Guid caseId,
        BuildPromiseEntry entry,
        Recorder recorder,
        BuildDesk desk,
        CancellationToken cancel
    )
    {
        var setting = await desk.SettingAsync(cancel);
        var promise = new BuildPromise
        {
            Id = entry.Id,
            Day = entry.Day,
            To = entry.To.Trim(),
            Note = entry.Note.Trim(),
        };
        return await recorder.AddCheckedAsync(
            caseId,
            promise,
            _ => BuildRules.Check(promise, DateOnly.FromDateTime(setting.Now.UtcDateTime)),
            cancel
        );
    }
}

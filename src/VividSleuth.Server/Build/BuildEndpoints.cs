using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Index;
using VividSleuth.Server.Shop;
using VividSleuth.Server.Strip;
using VividSleuth.Store;

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

/// <summary>As of <see cref="BackAct"/>.</summary>
/// <param name="Tag">As scanned or typed; it may carry the case or the prefix of its engine.</param>
public sealed record BackActEntry(
    Guid Id,
    string Step,
    BackActKind Kind,
    string Of,
    string Tag = "",
    bool IsNew = false,
    Facing Facing = Facing.Unknown,
    bool SideUp = false,
    Guid? Line = null,
    int Pass = 0,
    string Instrument = "",
    decimal? Hours = null,
    string Why = ""
);

/// <summary>As of <see cref="Tightening"/>.</summary>
public sealed record TighteningEntry(
    Guid Id,
    string Step,
    string Set,
    IReadOnlyList<TighteningPass> Passes,
    string Unit,
    IReadOnlyList<int> Order,
    string Lubricant,
    string ThreadLock,
    string Sealant,
    LimitSource Source,
    string SourceText,
    string Page,
    Guid? TakenFrom,
    string Note
);

/// <summary>How sets of another engine of the kind are tightened, for sets of which nobody typed it here.</summary>
/// <param name="Title">Of the case in which it was typed.</param>
public sealed record TighteningOfKind(Guid CaseId, string Title, string SetName, Tightening How);

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
        var acts = api.MapGroup("/cases/{caseId:guid}/back-acts").WithTags("build").RequireAuthorization(Policies.Write);
        acts.MapPost("", ActAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        acts.MapWithdraw<BackAct>("");
        var tightenings = api.MapGroup("/cases/{caseId:guid}/tightenings").WithTags("build").RequireAuthorization(Policies.Write);
        tightenings.MapPost("", TightenAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        tightenings.MapWithdraw<Tightening>("");
        api.MapGet("/cases/{caseId:guid}/tightenings/of-kind", OfKindAsync).WithTags("build").NotForStudents();
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
        return BuildRules.Check(task, reader.Arises(setting.Work, setting.Clocks, setting.Now, without: task.Id).Tasks, gone);
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

    private static async Task<BackAct> ActAsync(
        Guid caseId,
        BackActEntry entry,
        Recorder recorder,
        BuildDesk desk,
        CaseDesk cases,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var setting = await desk.SettingAsync(cancel);
        var mayOpen = await StripEndpoints.MayOpenAsync(cases, user, cancel);
        var by = user.FindFirstValue(ClaimTypes.Name) ?? "";
        var act = new BackAct
        {
            Id = entry.Id,
            Step = entry.Step,
            Kind = entry.Kind,
            Of = entry.Of.Trim(),
            IsNew = entry.IsNew,
            Facing = entry.Facing,
            SideUp = entry.SideUp,
            Line = entry.Line,
            Pass = entry.Pass,
            Instrument = entry.Instrument.Trim(),
            Hours = entry.Hours,
            Why = entry.Why.Trim(),
        };
        if (!string.IsNullOrWhiteSpace(entry.Tag))
        {
            await recorder.Db.ReadTagAsync(entry.Tag, (await cases.OpenAsync(caseId, cancel)).Case, cancel);
        }

        return await recorder.AddCheckedAsync(
            caseId,
            act,
            r =>
            {
                act.Tag = entry.Tag.Trim().Length == 0 ? "" : Scanned(entry.Tag, r);
                var task = r.Arises(setting.Work, setting.Clocks, setting.Now).Tasks.FirstOrDefault(t => t.Key == act.Step);
                return BackRules.Check(act, task, r.BackBook, r.Table, by, mayOpen(StepLock.Assembly));
            },
            cancel
        );
    }

    /// <summary>The address that a tag names, written as the table has it where it does.</summary>
    private static string Scanned(string tag, CaseReader reader)
    {
        var address = TagCode.Read(tag, reader.Case.Id, reader.Case.Prefix);
        return reader.Table.Find(address)?.Code ?? address;
    }

    private static async Task<Tightening> TightenAsync(Guid caseId, TighteningEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var tightening = new Tightening
        {
            Id = entry.Id,
            Step = entry.Step,
            Set = entry.Set,
            Passes = [.. entry.Passes],
            Unit = entry.Unit.Trim(),
            Order = [.. entry.Order],
            Lubricant = entry.Lubricant.Trim(),
            ThreadLock = entry.ThreadLock.Trim(),
            Sealant = entry.Sealant.Trim(),
            Source = entry.Source,
            SourceText = entry.SourceText.Trim(),
            Page = entry.Page.Trim(),
            TakenFrom = entry.TakenFrom,
            Note = entry.Note.Trim(),
        };
        return await recorder.AddCheckedAsync(
            caseId,
            tightening,
            r =>
                tightening.Check(
                    r.Book.Step(entry.Step)?.Fasteners.Find(f => f.Id == entry.Set) is { } set ? FastenerLedger.Expected(set, r.Table.Engine) : null
                ),
            cancel
        );
    }

    /// <summary>What was typed once for engines of the kind, to be taken over by a person: the newest of each set that has none here.</summary>
    private static async Task<IReadOnlyList<TighteningOfKind>> OfKindAsync(Guid caseId, SleuthDb db, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        var here = Tightening.Latest(reader.Case.Tightenings);
        var others = await db
            .Tightenings.AsNoTracking()
            .Where(t => t.CaseId != caseId && t.WithdrawnAt == null && t.Passes.Count > 0)
            .Join(db.Cases.OfTheKind(reader.Case), t => t.CaseId, c => c.Id, (t, c) => new { How = t, c.Title })
            .ToListAsync(cancel);
        return
        [
            .. others
                .Where(o => !here.ContainsKey((o.How.Step, o.How.Set)))
                .GroupBy(o => (o.How.Step, o.How.Set))
                .Select(g => g.MaxBy(o => o.How.At)!)
                .Select(o => (Of: o, Set: reader.Book.Step(o.How.Step)?.Fasteners.Find(f => f.Id == o.How.Set)))
                .Where(o => o.Set is not null)
                .OrderBy(o => o.Of.How.Step, StringComparer.Ordinal)
                .Select(o => new TighteningOfKind(o.Of.How.CaseId, o.Of.Title, o.Set!.Name, o.Of.How)),
        ];
    }
}

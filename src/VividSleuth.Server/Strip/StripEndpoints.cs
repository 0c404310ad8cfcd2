using System.Security.Claims;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;

namespace VividSleuth.Server.Strip;

/// <param name="Reason">Why it is left out.</param>
/// <param name="Overrides">Locks that are opened, each with its own reason.</param>
public sealed record StepEntry(Guid Id, string Step, StepState State, string Reason, IReadOnlyList<StepOverride>? Overrides = null);

public sealed record StepMarkEntry(Guid Id, string Step, StepMarkKind Kind, int Item);

public sealed record FastenerEntry(
    Guid Id,
    string Step,
    string Set,
    FastenerState State,
    int Count,
    int Hole,
    decimal? Length,
    Keeping Keeping,
    string Where,
    string Note
);

public sealed record OwnStepEntry(Guid Id, StripStep Step, string Reason);

public sealed record SignOffEntry(Guid Id, string Step, string Note);

/// <summary>Which script the case follows, and what the crank help needs; lengths in mm.</summary>
public sealed record StripSetup(int Version, string Script, decimal? Stroke, decimal? RodLength);

public sealed record CrankAnswer(IReadOnlyList<PistonPosition> Pistons, IReadOnlyList<CrankRange> AllDown);

public sealed record PullerAnswer(ScrewThread Thread, double Pull, PullerCheck Check);

public static class StripEndpoints
{
    public static void MapStrip(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("strip");
        group.MapGet("/dig", DigAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/crank", CrankAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        var writing = api.MapGroup("/cases/{caseId:guid}").WithTags("strip").RequireAuthorization(Policies.Write);
        writing.MapPost("/steps", AddStepAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapPost("/steps/{id:guid}/withdraw", WithdrawStepAsync).ProducesProblem(StatusCodes.Status409Conflict);
        writing.MapPost("/step-marks", AddMarkAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapPost("/fasteners", AddFastenersAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapWithdraw<FastenerMove>("/fasteners");
        writing.MapPost("/own-steps", AddOwnAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapPost("/own-steps/{id:guid}/withdraw", WithdrawOwnAsync).ProducesProblem(StatusCodes.Status409Conflict);
        writing.MapPost("/sign-offs", SignAsync).ProducesProblem(StatusCodes.Status403Forbidden);
        writing
            .MapPost("/sign-offs/{id:guid}/withdraw", UnsignAsync)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        writing.MapPut("/strip", SetUpAsync).ProducesProblem(StatusCodes.Status409Conflict).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/puller", Puller).WithTags("strip").ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static Task<StepRecord> AddStepAsync(Guid caseId, StepEntry entry, Recorder recorder, ClaimsPrincipal user, CancellationToken cancel)
    {
        var lead = user.IsInRole(Store.Shop.Roles.Lead);
        var record = new StepRecord
        {
            Id = entry.Id,
            Step = entry.Step,
            State = entry.State,
            Reason = entry.Reason.Trim(),
            Overrides = [.. (entry.Overrides ?? []).Select(o => new StepOverride { Lock = o.Lock, Reason = o.Reason.Trim() })],
        };
        return recorder.AddCheckedAsync(caseId, record, r => StepRules.Check(record, r.Strip, lead), cancel);
    }

    private static Task<StepMark> AddMarkAsync(Guid caseId, StepMarkEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var mark = new StepMark
        {
            Id = entry.Id,
            Step = entry.Step,
            Kind = entry.Kind,
            Item = entry.Item,
        };
        return recorder.AddCheckedAsync(
            caseId,
            mark,
            r =>
                StepOf(r, entry.Step) is not { } step ? Unknown(entry.Step)
                : entry.Kind is StepMarkKind.Ticked or StepMarkKind.Unticked && (entry.Item < 0 || entry.Item >= step.Ticks.Count)
                    ? Problem.Of("item", "server.step-without-point", ("item", entry.Item + 1))
                : null,
            cancel
        );
    }

    private static Task<FastenerMove> AddFastenersAsync(Guid caseId, FastenerEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var move = new FastenerMove
        {
            Id = entry.Id,
            Step = entry.Step,
            Set = entry.Set,
            State = entry.State,
            Count = entry.Count,
            Hole = entry.Hole,
            Length = entry.Length,
            Keeping = entry.Keeping,
            Where = entry.Where.Trim(),
            Note = entry.Note.Trim(),
        };
        return recorder.AddCheckedAsync(
            caseId,
            move,
            r => FastenerLedger.Check(move, StepOf(r, entry.Step), r.Table.Engine, r.Case.FastenerMoves),
            cancel
        );
    }

    /// <summary>A step that is signed is done until whoever may sign takes the signature back.</summary>
    private static Task<StepRecord> WithdrawStepAsync(Guid caseId, Guid id, Withdrawal withdrawal, Recorder recorder, CancellationToken cancel) =>
        recorder.WithdrawCheckedAsync<StepRecord>(
            caseId,
            id,
            withdrawal,
            (r, record) =>
                r.Strip.Steps.FirstOrDefault(s => s.Id == record.Step) is { SignedBy: { } by } step
                    ? Problem.Of("step", "server.step-is-signed", ("step", step.Name), ("by", by))
                    : null,
            cancel
        );

    private static Task<OwnStep> WithdrawOwnAsync(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        recorder.WithdrawCheckedAsync<OwnStep>(
            caseId,
            id,
            withdrawal,
            (r, own) =>
                user.IsInRole(Store.Shop.Roles.Lead)
                    ? null
                    : StepRules.LoosensWithout(own, r.Case.StripLog(), StripPlanner.ScriptOf(r.Case.StripLog(), r.Knowledge)),
            cancel
        );

    /// <summary>A signature is taken back by who may give it, and one of a lead by a lead; both names stay with it.</summary>
    private static async Task<SignOff> UnsignAsync(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        CaseDesk desk,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var signer = (await desk.ShopAsync(cancel)).Settings.HoldSigner;
        var role = user.FindFirstValue(ClaimTypes.Role) ?? "";
        return await recorder.WithdrawCheckedAsync<SignOff>(
            caseId,
            id,
            withdrawal,
            (_, sign) =>
                MaySign(role, sign.Role == Store.Shop.Roles.Lead ? sign.Role : signer)
                    ? null
                    : Problem.Of("role", "server.signature-stays", ("by", sign.By), ("signer", sign.Role)),
            cancel
        );
    }

    private static Task<OwnStep> AddOwnAsync(Guid caseId, OwnStepEntry entry, Recorder recorder, ClaimsPrincipal user, CancellationToken cancel)
    {
        var lead = user.IsInRole(Store.Shop.Roles.Lead);
        var own = new OwnStep
        {
            Id = entry.Id,
            Step = entry.Step,
            Reason = entry.Reason.Trim(),
        };
        return recorder.AddCheckedAsync(
            caseId,
            own,
            r =>
            {
                StepRules.CheckOwn(own, r.Case.StripLog(), r.Table, r.Knowledge);
                return lead ? null : StepRules.Loosens(StepOf(r, own.Step.Id), own.Step);
            },
            cancel
        );
    }

    private static async Task<SignOff> SignAsync(
        Guid caseId,
        SignOffEntry entry,
        Recorder recorder,
        CaseDesk desk,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var signer = (await desk.ShopAsync(cancel)).Settings.HoldSigner;
        var role = user.FindFirstValue(ClaimTypes.Role) ?? "";
        var sign = new SignOff
        {
            Id = entry.Id,
            Step = entry.Step,
            Role = role,
            Note = entry.Note.Trim(),
        };
        return await recorder.AddCheckedAsync(
            caseId,
            sign,
            r =>
            {
                var step = r.Strip.Steps.FirstOrDefault(s => s.Id == entry.Step);
                return step switch
                {
                    null => Unknown(entry.Step),
                    { HoldPoint: false } => Problem.Of("step", "server.no-hold-point", ("step", step.Name)),
                    { State: null } => Problem.Of("step", "server.not-done-yet", ("step", step.Name)),
                    { SignedBy: { } by } => Problem.Of("step", "server.signed-already", ("by", by)),
                    _ when !MaySign(role, signer) => Problem.Of("role", "server.shop-signs-hold-points", ("signer", signer)),
                    _ => null,
                };
            },
            cancel
        );
    }

    private static bool MaySign(string role, string signer) => role == signer || role == Store.Shop.Roles.Lead;

    private static Task<EngineCase> SetUpAsync(Guid caseId, StripSetup entry, Recorder recorder, KnowledgeBase knowledge, CancellationToken cancel)
    {
        if (entry.Script.Length > 0 && knowledge.Script(entry.Script) is null)
        {
            throw new ProblemException(Problem.Of("script", "server.no-strip-script", ("script", entry.Script)));
        }

        if (entry.Stroke is { } stroke && entry.RodLength is { } rod)
        {
            CrankHelp.Drop(0, (double)stroke, (double)rod);
        }

        return recorder.UpdateAsync<EngineCase>(
            caseId,
            caseId,
            entry.Version,
            entry,
            c =>
            {
                c.Script = entry.Script;
                c.Stroke = entry.Stroke;
                c.RodLength = entry.RodLength;
            },
            cancel
        );
    }

    private static async Task<DigPlan> DigAsync(Guid caseId, string target, CaseDesk desk, CancellationToken cancel)
    {
        var reader = await desk.OpenAsync(caseId, cancel);
        return Digger.To(target, reader.Case.StripLog(), reader.Table, reader.Knowledge);
    }

    /// <param name="angle">Degrees after cylinder 1's firing top dead centre.</param>
    /// <param name="stroke">mm.</param>
    /// <param name="rod">Rod length between centres, mm.</param>
    /// <param name="least">How far down every piston should be, mm.</param>
    private static async Task<CrankAnswer> CrankAsync(
        Guid caseId,
        double angle,
        double stroke,
        double rod,
        double least,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var engine = (await recorder.TableAsync(caseId, cancel)).Engine;
        return new CrankAnswer(CrankHelp.At(engine, angle, stroke, rod), CrankHelp.AllDown(engine, least, stroke, rod));
    }

    /// <summary>Proof load of puller bolts against a pull in kN, or against the torque in N·m on a forcing screw.</summary>
    /// <param name="grade">Name of a <see cref="BoltGrade"/>: class88, grade5 … A query is bound by exact case only, so it is read here.</param>
    private static PullerAnswer Puller(string thread, string grade, int bolts, double? pull, double? torque, string? screw)
    {
        if (!Enum.TryParse<BoltGrade>(grade, ignoreCase: true, out var known) || !Enum.IsDefined(known))
        {
            throw new ProblemException(Problem.Of("grade", "server.no-such-grade", ("grade", grade), ("join", Enum.GetNames<BoltGrade>())));
        }

        var bolt = PullerHelp.Parse(thread);
        var load =
            pull
            ?? (
                torque is { } t && screw is { Length: > 0 }
                    ? PullerHelp.PullOf(t, PullerHelp.Parse(screw))
                    : throw new ProblemException(Problem.Of("pull", "server.how-hard-pulled"))
            );
        return new PullerAnswer(bolt, load, PullerHelp.Check(bolt, known, load, bolts));
    }

    private static StripStep? StepOf(CaseReader reader, string id) =>
        StripPlanner.StepsOf(reader.Case.StripLog(), StripPlanner.ScriptOf(reader.Case.StripLog(), reader.Knowledge)).FirstOrDefault(s => s.Id == id);

    private static Problem Unknown(string step) => Problem.Of("step", "server.no-such-step", ("step", step));
}

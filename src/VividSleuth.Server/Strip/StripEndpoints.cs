using System.Security.Claims;
using VividSleuth.Core;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Shop;

namespace VividSleuth.Server.Strip;

/// <param name="Reason">Why it is left out, or how it was found.</param>
/// <param name="Overrides">Obstacles that are passed, each with its own reason.</param>
/// <param name="Stations">At which it was done, of a step that is done one by one; none is all that are left.</param>
public sealed record StepEntry(
    Guid Id,
    string Step,
    StepState State,
    string Reason,
    IReadOnlyList<StepOverride>? Overrides = null,
    IReadOnlyList<int>? Stations = null
);

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
    string Note,
    Guid? Line = null
);

public sealed record OwnStepEntry(Guid Id, StripStep Step, string Reason);

public sealed record SignOffEntry(Guid Id, string Step, string Note, SignOutcome Outcome = SignOutcome.Signed);

/// <summary>Which script the case follows, and what the crank help needs; lengths in mm.</summary>
/// <param name="Variants">Ids of the script's other ways that are chosen; null leaves them as they are, but for another script.</param>
public sealed record StripSetup(int Version, string Script, decimal? Stroke, decimal? RodLength, IReadOnlyList<string>? Variants = null);

public sealed record CrankAnswer(IReadOnlyList<PistonPosition> Pistons, IReadOnlyList<CrankRange> AllDown);

/// <param name="Hub">Whether the hub’s threads hold; null where nobody asked.</param>
public sealed record PullerAnswer(ScrewThread Thread, double Pull, PullerCheck Check, HubCheck? Hub);

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

    private static async Task<StepRecord> AddStepAsync(
        Guid caseId,
        StepEntry entry,
        Recorder recorder,
        CaseDesk desk,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var mayOpen = await MayOpenAsync(desk, user, cancel);
        var record = new StepRecord
        {
            Id = entry.Id,
            Step = entry.Step,
            State = entry.State,
            Reason = entry.Reason.Trim(),
            Overrides =
            [
                .. (entry.Overrides ?? []).Select(o => new StepOverride
                {
                    Lock = o.Lock,
                    Of = o.Of,
                    Reason = o.Reason.Trim(),
                }),
            ],
            Stations = [.. (entry.Stations ?? []).Distinct().Order()],
        };
        return await recorder.AddCheckedAsync(
            caseId,
            record,
            r =>
            {
                record.Per = record.Stations.Count > 0 ? r.Book.Step(record.Step)?.Per ?? default : default;
                return StepRules.Check(record, r.Book, mayOpen);
            },
            cancel
        );
    }

    /// <summary>Which locks whoever asks may open in this shop.</summary>
    internal static async Task<Func<StepLock, bool>> MayOpenAsync(CaseDesk desk, ClaimsPrincipal user, CancellationToken cancel)
    {
        var settings = (await desk.ShopAsync(cancel)).Settings;
        var role = user.FindFirstValue(ClaimTypes.Role) ?? "";
        return of => settings.MayOpen(of, role);
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
            Line = entry.Line,
            Note = entry.Note.Trim(),
        };
        return recorder.AddCheckedAsync(
            caseId,
            move,
            r =>
                FastenerLedger.Check(move, StepOf(r, entry.Step), r.Table.Engine, r.Case.FastenerMoves)
                ?? (move.State == FastenerState.NewIn ? BackRules.CheckNew(move, StepOf(r, entry.Step)!, r.BackBook) : null),
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
                r.Book.SignatureOf(record.Step) is { } signed
                    ? Problem.Of("step", "server.step-is-signed", ("step", r.Book.Names[record.Step]), ("by", signed.By))
                    : null,
            cancel
        );

    private static async Task<OwnStep> WithdrawOwnAsync(
        Guid caseId,
        Guid id,
        Withdrawal withdrawal,
        Recorder recorder,
        CaseDesk desk,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var mayOpen = await MayOpenAsync(desk, user, cancel);
        return await recorder.WithdrawCheckedAsync<OwnStep>(
            caseId,
            id,
            withdrawal,
            (r, own) => StepRules.LoosensWithout(own, r.Case.StripLog(), r.Book.Script, mayOpen),
            cancel
        );
    }

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
        var signers = await SignersAsync(caseId, recorder, desk, user, cancel);
        return await recorder.WithdrawCheckedAsync<SignOff>(
            caseId,
            id,
            withdrawal,
            (_, sign) =>
                (sign.Role == Store.Shop.Roles.Lead ? user.IsInRole(sign.Role) : signers.MaySign)
                || (sign.Outcome is SignOutcome.Looked or SignOutcome.Asked && sign.By == user.Identity?.Name)
                    ? null
                    : Problem.Of("role", "server.signature-stays", ("by", sign.By), ("signer", sign.Role)),
            cancel
        );
    }

    private static async Task<OwnStep> AddOwnAsync(
        Guid caseId,
        OwnStepEntry entry,
        Recorder recorder,
        CaseDesk desk,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var mayOpen = await MayOpenAsync(desk, user, cancel);
        var own = new OwnStep
        {
            Id = entry.Id,
            Step = entry.Step,
            Reason = entry.Reason.Trim(),
        };
        return await recorder.AddCheckedAsync(
            caseId,
            own,
            r =>
            {
                StepRules.CheckOwn(own, r.Case.StripLog(), r.Table, r.Knowledge);
                return StepRules.Loosens(r.Book.Step(own.Step.Id), own.Step, mayOpen);
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
        var signers = await SignersAsync(caseId, recorder, desk, user, cancel);
        var by = user.FindFirstValue(ClaimTypes.Name) ?? "";
        var sign = new SignOff
        {
            Id = entry.Id,
            Step = entry.Step,
            Outcome = entry.Outcome,
            Role = user.FindFirstValue(ClaimTypes.Role) ?? "",
            Note = entry.Note.Trim(),
        };
        return await recorder.AddCheckedAsync(
            caseId,
            sign,
            r =>
            {
                var problem = StepRules.CheckSign(
                    sign,
                    r.Book,
                    by,
                    signers.MaySign,
                    signers.Role,
                    signers.OtherEyes,
                    signers.SecondLooks.Contains(sign.Step)
                );
                sign.Seen = problem is null ? r.Book.Seen(sign.Step) : "";
                return problem;
            },
            cancel
        );
    }

    /// <summary>Who signs hold points of a case: who teaches its class, else the role that signs in this shop; a lead always.</summary>
    private sealed record Signers(bool MaySign, string Role, bool OtherEyes, IReadOnlyList<string> SecondLooks);

    private static async Task<Signers> SignersAsync(Guid caseId, Recorder recorder, CaseDesk desk, ClaimsPrincipal user, CancellationToken cancel)
    {
        var settings = (await desk.ShopAsync(cancel)).Settings;
        return await recorder.Db.SeatAsync(caseId, cancel) is { } seat
            ? new Signers(seat.MaySign(user), Teacher, settings.OtherEyes, seat.Class.SecondLooks)
            : new Signers(user.IsInRole(settings.HoldSigner) || user.IsInRole(Store.Shop.Roles.Lead), settings.HoldSigner, settings.OtherEyes, []);
    }

    private const string Teacher = "teacher";

    private static async Task<EngineCase> SetUpAsync(
        Guid caseId,
        StripSetup entry,
        Recorder recorder,
        CaseDesk desk,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        if (entry.Script.Length > 0 && knowledge.Script(entry.Script) is null)
        {
            throw new ProblemException(Problem.Of("script", "server.no-strip-script", ("script", entry.Script)));
        }

        var reader = await desk.OpenAsync(caseId, cancel);
        var log = reader.Case.StripLog() with { Script = entry.Script };
        var script = StripPlanner.ScriptOf(log, knowledge);
        string[] variants = [.. entry.Variants?.Distinct() ?? (script.Id == reader.Book.Script.Id ? reader.Case.Variants : [])];
        if (StripVariants.Check(variants, log, script) is { } refused)
        {
            throw new ProblemException(refused);
        }

        if (entry.Stroke is { } stroke && entry.RodLength is { } rod)
        {
            CrankHelp.Drop(0, (double)stroke, (double)rod);
        }

        return await recorder.UpdateAsync<EngineCase>(
            caseId,
            caseId,
            entry.Version,
            entry,
            c =>
            {
                c.Script = entry.Script;
                c.Variants = [.. variants];
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
    /// <param name="engaged">Length of thread in the hub, mm; the hub is checked where it is given.</param>
    /// <param name="hub">Name of a <see cref="HubMetal"/>: steel, castIron, aluminium.</param>
    private static PullerAnswer Puller(
        string thread,
        string grade,
        int bolts,
        double? pull,
        double? torque,
        string? screw,
        double? engaged,
        string? hub
    )
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
        var check = PullerHelp.Check(bolt, known, load, bolts);
        if (engaged is not { } length)
        {
            return new PullerAnswer(bolt, load, check, null);
        }

        return Enum.TryParse<HubMetal>(hub, ignoreCase: true, out var metal) && Enum.IsDefined(metal)
            ? new PullerAnswer(bolt, load, check, PullerHelp.Hub(bolt, check.Each, length, metal))
            : throw new ProblemException(Problem.Of("hub", "server.no-such-metal", ("hub", hub), ("join", Enum.GetNames<HubMetal>())));
    }

    private static StripStep? StepOf(CaseReader reader, string id) => reader.Book.Step(id);

    private static Problem Unknown(string step) => Problem.Of("step", "server.no-such-step", ("step", step));
}

using VividSleuth.Core;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Casebook;

namespace VividSleuth.Server.Verdict;

public sealed record OptionEntry(
    Guid Id,
    int Version,
    string Title,
    string Scope,
    IReadOnlyList<OptionLine> Lines,
    string Base,
    IReadOnlyDictionary<string, decimal> Rates,
    IReadOnlyList<string> Risks,
    IReadOnlyList<string> Removes,
    IReadOnlyList<FailureCost> Failing,
    decimal FarOut,
    WarrantyBy Warranty,
    int WarrantyMonths,
    decimal? OwnChance,
    string Remarks
);

public sealed record ChoiceEntry(Guid Id, Guid Option, string Why);

/// <summary>Options of cost against risk, and which was chosen.</summary>
public static class OptionEndpoints
{
    public static void MapOptions(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}/options").WithTags("verdict").RequireAuthorization(Policies.Write);
        group.MapPost("", AddAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group
            .MapPut("/{id:guid}", ChangeAsync)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<RepairOption>("");
        var choices = api.MapGroup("/cases/{caseId:guid}/choices").WithTags("verdict").RequireAuthorization(Policies.Write);
        choices.MapPost("", ChooseAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        choices.MapWithdraw<OptionChoice>("");
    }

    private static Task<RepairOption> AddAsync(Guid caseId, OptionEntry entry, Recorder recorder, CancellationToken cancel)
    {
        var option = new RepairOption { Id = entry.Id };
        Fill(option, entry);
        return recorder.AddCheckedAsync(caseId, option, r => option.Check(r.Knowledge), cancel);
    }

    private static Task<RepairOption> ChangeAsync(Guid caseId, Guid id, OptionEntry entry, Recorder recorder, CancellationToken cancel) =>
        recorder.UpdateCheckedAsync<RepairOption>(caseId, id, entry.Version, entry, o => Fill(o, entry), (r, o) => o.Check(r.Knowledge), cancel);

    private static void Fill(RepairOption option, OptionEntry entry)
    {
        option.Title = entry.Title.Trim();
        option.Scope = entry.Scope;
        option.Lines = [.. entry.Lines.Select(l => l with { What = l.What.Trim(), Currency = l.Currency.Trim().ToUpperInvariant() })];
        option.Base = entry.Base.Trim().ToUpperInvariant();
        option.Rates = entry.Rates.ToDictionary(r => r.Key.Trim().ToUpperInvariant(), r => r.Value, StringComparer.Ordinal);
        option.Risks = [.. entry.Risks.Distinct(StringComparer.Ordinal)];
        option.Removes = [.. entry.Removes.Distinct(StringComparer.Ordinal)];
        option.Failing = [.. entry.Failing.Select(f => f with { Currency = f.Currency.Trim().ToUpperInvariant() })];
        option.FarOut = entry.FarOut;
        option.Warranty = entry.Warranty;
        option.WarrantyMonths = entry.WarrantyMonths;
        option.OwnChance = entry.OwnChance;
        option.Remarks = entry.Remarks.Trim();
    }

    private static Task<OptionChoice> ChooseAsync(Guid caseId, ChoiceEntry entry, Recorder recorder, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(entry.Why))
        {
            throw new ProblemException(Problem.Of("why", "server.choice-needs-a-reason"));
        }

        var choice = new OptionChoice
        {
            Id = entry.Id,
            Option = entry.Option,
            Why = entry.Why.Trim(),
        };
        return recorder.AddCheckedAsync(
            caseId,
            choice,
            r =>
            {
                var table = r.Options.FirstOrDefault(t => t.Options.Any(o => o.Id == entry.Option));
                if (table?.Options.FirstOrDefault(o => o.Id == entry.Option) is not { } judged)
                {
                    return Problem.Of("option", "server.no-such-option");
                }

                // Kept as they stood, so that a later price does not change what was chosen on.
                choice.Title = judged.Title;
                choice.Scope = table.Scope;
                choice.Cost = judged.Sure;
                choice.Chance = judged.Chance;
                choice.Expected = judged.Expected;
                choice.Currency = judged.Currency;
                return null;
            },
            cancel
        );
    }
}

using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Store;

namespace VividSleuth.Server.Gauge;

/// <summary>A reading as typed. <paramref name="Confirmed"/> answers the question that a suspect entry raises.</summary>
public sealed record ReadingEntry(
    Guid Id,
    string Place,
    string Characteristic,
    string Typed,
    string SetUnit,
    string Instrument,
    decimal? Temperature,
    Guid? Corrects,
    bool Confirmed
);

/// <summary>A limit as typed, with its source. Empty figures stay open.</summary>
public sealed record LimitEntry(
    Guid Id,
    string Characteristic,
    string Nominal,
    string Least,
    string Most,
    string SetUnit,
    LimitSource Source,
    string SourceText
);

public static class GaugeEndpoints
{
    public static void MapGauge(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{caseId:guid}").WithTags("gauge").RequireAuthorization(Policies.Write);
        group.MapPost("/readings", AddReadingAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Reading>("/readings");
        group.MapPost("/limits", AddLimitAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapWithdraw<Limit>("/limits");
    }

    private static async Task<Reading> AddReadingAsync(
        Guid caseId,
        ReadingEntry entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var place = (await recorder.TableAsync(caseId, cancel)).Parse(entry.Place);
        var characteristic = Measurable(knowledge, entry.Characteristic, place);
        var typed = QuantityParser.Parse(entry.Typed, characteristic.Quantity, entry.SetUnit);
        var (nominal, median) = await ExpectedAsync(recorder.Db, caseId, characteristic.Id, cancel);
        var value = typed.Value;
        if (typed.Relative)
        {
            value =
                nominal + typed.Value
                ?? throw new ProblemException(
                    new Problem(
                        "typed",
                        "A figure with a sign counts from a nominal size, and none is set.",
                        "Set the nominal first, or type the whole size."
                    )
                );
        }

        if (!entry.Confirmed && Suspicion.Of(value, median ?? nominal, characteristic.Gap) is { } question)
        {
            throw new ProblemException(
                new Problem(
                    "confirmed",
                    question.Text,
                    question.Likely == value
                        ? "Enter it again to keep it as typed."
                        : $"Did you mean {Told(question.Likely, typed.Unit)}? Correct it, or enter it again to keep it as typed."
                )
            );
        }

        var reading = new Reading
        {
            Id = entry.Id,
            Place = place.Code,
            Characteristic = characteristic.Id,
            Typed = entry.Typed.Trim(),
            Value = value,
            Unit = typed.Unit,
            Instrument = entry.Instrument.Trim(),
            Temperature = entry.Temperature,
            Corrects = entry.Corrects,
        };
        return await recorder.AddAsync(caseId, reading, cancel);
    }

    private static async Task<Limit> AddLimitAsync(
        Guid caseId,
        LimitEntry entry,
        Recorder recorder,
        KnowledgeBase knowledge,
        CancellationToken cancel
    )
    {
        var characteristic =
            knowledge.Characteristic(entry.Characteristic)
            ?? throw new ProblemException(
                new Problem("characteristic", $"“{entry.Characteristic}” cannot be measured here.", "Choose one of those offered.")
            );
        if (entry.Source == LimitSource.RuleOfThumb || string.IsNullOrWhiteSpace(entry.SourceText))
        {
            throw new ProblemException(
                new Problem(
                    "sourceText",
                    "No limit without its source.",
                    "Write manual and page, or who set it. Rules of thumb are shown as such by themselves."
                )
            );
        }

        decimal? Value(string typed, string field)
        {
            if (string.IsNullOrWhiteSpace(typed))
            {
                return null;
            }

            try
            {
                return QuantityParser.Parse(typed, characteristic.Quantity, entry.SetUnit).Value;
            }
            catch (ProblemException e)
            {
                throw new ProblemException(e.Problems[0] with { Field = field });
            }
        }

        var limit = new Limit
        {
            Id = entry.Id,
            Characteristic = characteristic.Id,
            Nominal = Value(entry.Nominal, "nominal"),
            Least = Value(entry.Least, "least"),
            Most = Value(entry.Most, "most"),
            Source = entry.Source,
            SourceText = entry.SourceText.Trim(),
        };
        if (limit is { Nominal: null, Least: null, Most: null })
        {
            throw new ProblemException(new Problem("most", "The limit has no figure.", "Give a nominal, a least or a most."));
        }

        return limit.Least > limit.Most
            ? throw new ProblemException(new Problem("least", "The least is more than the most.", "Exchange the two figures."))
            : await recorder.AddAsync(caseId, limit, cancel);
    }

    private static CharacteristicEntry Measurable(KnowledgeBase knowledge, string id, Address place)
    {
        var found = knowledge.Characteristic(id);
        return found is { Derived: false } && found.On.Contains(place.Kind.Id)
            ? found
            : throw new ProblemException(
                new Problem("characteristic", $"“{found?.Name ?? id}” is not measured on a {place.Kind.Name}.", "Choose one of those offered.")
            );
    }

    /// <summary>The nominal size set for the case, and the median of what was measured on its fellows.</summary>
    private static async Task<(decimal? Nominal, decimal? Median)> ExpectedAsync(
        SleuthDb db,
        Guid caseId,
        string characteristic,
        CancellationToken cancel
    )
    {
        var nominal = await db.Set<Limit>()
            .Where(l => l.CaseId == caseId && l.Characteristic == characteristic && l.WithdrawnAt == null && l.Nominal != null)
            .OrderByDescending(l => l.At)
            .Select(l => l.Nominal)
            .FirstOrDefaultAsync(cancel);
        var fellows = await db.Set<Reading>()
            .Where(r => r.CaseId == caseId && r.Characteristic == characteristic && r.WithdrawnAt == null)
            .Select(r => (double)r.Value)
            .ToListAsync(cancel);
        return (nominal, fellows.Count >= 3 ? (decimal)Statistics.Median(fellows) : null);
    }

    private static string Told(decimal value, string unit) => $"{QuantityParser.InUnit(value, unit):0.####} {unit}";
}

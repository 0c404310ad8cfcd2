using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Look;

/// <summary>A likely source of a find in pan, screen or filter.</summary>
/// <param name="Fit">Points for what agrees; only the order counts.</param>
/// <param name="Places">Addresses it may have come from, those first on which something was seen.</param>
/// <param name="Agrees">What speaks for it.</param>
public sealed record DebrisSource(
    string Id,
    string Name,
    int Fit,
    string Sign,
    string Tell,
    IReadOnlyList<string> Places,
    IReadOnlyList<Fact> Agrees
);

/// <summary>A find with its likely sources, the likeliest first.</summary>
public sealed record DebrisReading(Guid Debris, string Place, IReadOnlyList<DebrisSource> Sources);

/// <summary>Offers likely sources for debris by what magnet, thumbnail, eye and rule said.</summary>
public static class DebrisSources
{
    private const int MostShown = 4;

    public static IReadOnlyList<DebrisReading> Of(
        IReadOnlyList<Debris> debris,
        IReadOnlyList<Finding> findings,
        AddressTable table,
        KnowledgeBase knowledge
    )
    {
        var worst = findings
            .Where(f => f.Stands())
            .GroupBy(f => f.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Max(f => f.Level), StringComparer.Ordinal);
        return
        [
            .. debris
                .Where(d => d.Stands())
                .Select(d => new DebrisReading(
                    d.Id,
                    d.Place,
                    [
                        .. knowledge
                            .DebrisSources.Select(s => Fit(d, s, table, worst))
                            .OfType<DebrisSource>()
                            .OrderByDescending(s => s.Fit)
                            .ThenBy(s => s.Id, StringComparer.Ordinal)
                            .Take(MostShown),
                    ]
                )),
        ];
    }

    /// <returns>Null when the find contradicts the source, or the engine has nothing it could come from.</returns>
    private static DebrisSource? Fit(Debris find, KnownDebris source, AddressTable table, Dictionary<string, int> worst)
    {
        var places = source
            .From.SelectMany(table.OfKind)
            .Select(a => a.Code)
            .OrderByDescending(c => worst.GetValueOrDefault(c))
            .ThenBy(c => c, StringComparer.Ordinal)
            .ToArray();
        var mismatch =
            (find.Material != DebrisMaterial.Unknown && !source.Material.Contains(find.Material))
            || (find.Hard is { } hard && source.Hard is { } needs && hard != needs)
            || (source.From.Count > 0 && places.Length == 0);
        if (mismatch)
        {
            return null;
        }

        var agrees = new List<Fact>();
        var fit = (int)source.Often;
        void Point(bool holds, int points, Fact words)
        {
            if (holds)
            {
                fit += points;
                agrees.Add(words);
            }
        }

        Point(find.Material != DebrisMaterial.Unknown, 4, Fact.Of("look.agrees.material"));
        Point(find.Hard is not null && source.Hard is not null, 4, Fact.Of(find.Hard == true ? "look.agrees.hard" : "look.agrees.soft"));
        Point(find.Colour != DebrisColour.Unknown && source.Colour.Contains(find.Colour), 6, Fact.Of("look.agrees.colour"));
        Point(find.Form != DebrisForm.Unknown && source.Form.Contains(find.Form), 6, Fact.Of("look.agrees.form"));
        if (find.Size is { } size && (source.Largest is not null || source.Smallest is not null))
        {
            var fits = (double)size <= (source.Largest ?? double.MaxValue) && (double)size >= (source.Smallest ?? 0);
            Point(fits, 3, Fact.Of("look.agrees.size"));
            fit -= fits ? 0 : 6;
        }

        fit -= find.Colour != DebrisColour.Unknown && source.Colour.Count > 0 && !source.Colour.Contains(find.Colour) ? 6 : 0;
        fit -= find.Form != DebrisForm.Unknown && source.Form.Count > 0 && !source.Form.Contains(find.Form) ? 4 : 0;
        Point(places.Length > 0 && worst.GetValueOrDefault(places[0]) >= 2, 3, Fact.Of("look.agrees.damaged", ("place", places.FirstOrDefault())));
        return new DebrisSource(source.Id, source.Name, fit, source.Sign, source.Tell, [.. places.Take(6)], agrees);
    }
}

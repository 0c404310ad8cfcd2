using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Words;

namespace VividSleuth.Server.Casebook;

/// <summary>Works out by what a case is found.</summary>
internal static class CaseIndexing
{
    public static CaseIndex Of(CaseReader reader, long revision, Sentences say)
    {
        var (c, knowledge, table) = (reader.Case, reader.Knowledge, reader.Table);
        Finding[] seen = [.. c.Findings.Where(f => f.Stands() && f.Seen == Seen.Present)];
        SheetFigure[] outside = [.. reader.Gauge.Figures.Where(f => f is { Conformity: Conformity.Outside, Phase: Phase.AsFound })];
        Core.Trace.Conclusion[] found = [.. c.Conclusions.Where(x => x.Stands())];
        var signs = CaseSigns.Of(c, table);
        return new CaseIndex
        {
            CaseId = c.Id,
            Revision = revision,
            Body = string.Join('\n', new[]
                {
                    c.Title,
                    c.EngineName,
                    // A number of letters and digits is found by each of its parts.
                    $"{c.Serial} {new string([.. c.Serial.Select(x => char.IsLetterOrDigit(x) ? x : ' ')])}",
                    c.Owner,
                    c.Complaint,
                    c.Past,
                }.Concat(seen.Select(Told)).Concat(outside.Select(f => say.Say(Fact.Of("casebook.figure-out-of-limit", ("figure", f.Name), ("place", Where(f.Place)))))).Concat(found.Select(x => Line(knowledge.Cause(x.Cause)?.Name ?? "", Where(x.Place), x.Reasons))).Concat(Core.Verdict.PartVerdict.Latest(c.Verdicts).Values.Select(v => Line(knowledge.Courses.FirstOrDefault(k => k.Id == v.Course)?.Name ?? "", Where(v.Place), v.Reason))).Concat(c.Debris.Where(d => d.Stands()).Select(d => d.Note)).Concat(c.Photos.Where(p => p.Stands()).Select(p => p.Caption)).Concat(c.Parts.Where(p => p.Stands()).Select(p => p.Remarks)).Concat(c.Candidates.Where(p => p.Stands()).Select(p => p.Name)).Where(line => line.Length > 0).Distinct(StringComparer.Ordinal)),
            Signs = [.. seen.Select(f => f.Sign).Distinct(StringComparer.Ordinal)],
            Parts = [.. seen.Select(f => table.Find(f.Place)?.Kind.ReadAs).OfType<string>().Distinct(StringComparer.Ordinal)],
            Outside = [.. outside.Select(f => f.Characteristic).Distinct(StringComparer.Ordinal)],
            Causes = [.. found.Select(x => x.Cause).Where(x => x.Length > 0).Distinct(StringComparer.Ordinal)],
            People = [.. c.Records().Append(c).Where(r => !r.Imported).Select(r => r.By).Where(by => by.Length > 0).Distinct(StringComparer.Ordinal)],
            Present = [.. signs.Present.Select(p => $"{p.Key}#{p.Value}").Order(StringComparer.Ordinal)],
            LookedFor = [.. signs.LookedFor.Order(StringComparer.Ordinal)],
        };

        string Told(Finding f)
        {
            var sign = knowledge.Sign(f.Sign);
            var line = Line(sign?.Name ?? f.Sign, Where(f.Place), f.Spot, f.Note);
            return sign is { Also.Count: > 0 } ? $"{line} {CaseIndex.Also} {string.Join(' ', sign.Also)}" : line;
        }

        string Where(string place) => table.Find(place) is { } at ? $"{say.Say(at.Words)} {at.Code}" : place;

        static string Line(params IEnumerable<string> parts) => string.Join(", ", parts.Where(p => !string.IsNullOrWhiteSpace(p)));
    }

    /// <summary>A case's signs as they are kept.</summary>
    public static CaseSigns Signs(CaseIndex of) =>
        new(
            of.CaseId,
            of.Present.Select(p => p.Split('#')).ToDictionary(p => p[0], p => Enum.Parse<SignSpread>(p[1]), StringComparer.Ordinal),
            of.LookedFor.ToHashSet(StringComparer.Ordinal)
        );

    /// <summary>Cases that the words find; where none has them as they are typed, those that have words like them.</summary>
    /// <returns>The cases, what was taken instead of a typed word, and whether anything was.</returns>
    public static async Task<(IQueryable<EngineCase> Cases, IReadOnlyDictionary<string, IReadOnlyList<string>> Instead, bool Near)> FoundAsync(
        this IQueryable<EngineCase> all,
        SleuthDb db,
        string words,
        CancellationToken cancel
    )
    {
        var none = new Dictionary<string, IReadOnlyList<string>>(StringComparer.Ordinal);
        var found = all.With(db, words, CaseSearch.Query(words));
        if (words.Length == 0 || await found.AnyAsync(cancel))
        {
            return (found, none, false);
        }

        var instead = await db.InsteadAsync(words, cancel);
        // Each word as it is where cases have it, and what is like it where none has.
        return instead.Count == 0 ? (found, none, true) : (all.With(db, words, CaseSearch.Query(words, instead)), instead, true);
    }
}

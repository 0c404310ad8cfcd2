using NpgsqlTypes;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Store.Cases;

/// <summary>
/// By what a case is found, kept beside its state as of one revision: all its words, and what was found, measured, concluded and by whom, by ids of the
/// knowledge. Derived; it can be thrown away and is worked out anew.
/// </summary>
public sealed class CaseIndex
{
    /// <summary>What stands behind it in a line of <see cref="Body"/> is another name for what stands before: it is found, and not shown.</summary>
    public const string Also = "‖";

    public Guid CaseId { get; set; }

    /// <summary>The revision of the case that it was worked out of.</summary>
    public long Revision { get; set; }

    /// <summary>All that is said of the case, a fact a line.</summary>
    public string Body { get; set; } = "";

    /// <summary>Stems of the words of <see cref="Body"/>, as the database keeps them.</summary>
    public NpgsqlTsVector Terms { get; set; } = null!;

    /// <summary>Ids of signs that were seen, whoever left them.</summary>
    public List<string> Signs { get; set; } = [];

    /// <summary>Ids of kinds of part on which something was seen.</summary>
    public List<string> Parts { get; set; } = [];

    /// <summary>Ids of what was measured as it came and is surely outside its limit.</summary>
    public List<string> Outside { get; set; } = [];

    /// <summary>Ids of the causes that somebody wrote down as found.</summary>
    public List<string> Causes { get; set; } = [];

    /// <summary>Who wrote in it.</summary>
    public List<string> People { get; set; } = [];

    /// <summary>Sign, kind of part and spread of what was seen as it came: “overlay-wiped@shell-upper#one”.</summary>
    public List<string> Present { get; set; } = [];

    /// <summary>Sign and kind of part of what somebody looked for.</summary>
    public List<string> LookedFor { get; set; } = [];

    /// <summary>Places at which somebody looked for damage.</summary>
    public List<string> Looked { get; set; } = [];

    /// <summary>Places of severe damage as it came.</summary>
    public List<string> Damaged { get; set; } = [];

    /// <summary>Place at which it began by the own finding; empty where nobody decided.</summary>
    public string Began { get; set; } = "";

    /// <summary>What sound places measured as they came, by <see cref="KindBackground.FiguresOf"/>.</summary>
    public Dictionary<string, double[]> Figures { get; set; } = [];

    /// <summary>Works out by what a case is found.</summary>
    /// <param name="english">In which what the program says of it is found wherever it stands.</param>
    /// <param name="shown">The shop's language: in it these lines are shown, and found too.</param>
    public static CaseIndex Of(CaseReader reader, long revision, Telling english, Telling? shown = null)
    {
        var (c, knowledge, table) = (reader.Case, reader.Knowledge, reader.Table);
        Finding[] seen = [.. c.Findings.Where(f => f.Stands() && f.Seen == Seen.Present)];
        SheetFigure[] outside = [.. reader.Gauge.Figures.Where(f => f is { Conformity: Conformity.Outside, Phase: Phase.AsFound })];
        Core.Trace.Conclusion[] found = [.. c.Conclusions.Where(x => x.Stands())];
        var signs = CaseSigns.Of(c, table);
        var failed = KindCase.Of(c);
        string[] lines =
        [
            c.Title,
            c.EngineName,
            // A number of letters and digits is found by each of its parts.
            $"{c.Serial} {new string([.. c.Serial.Select(x => char.IsLetterOrDigit(x) ? x : ' ')])}",
            c.Owner,
            c.Complaint,
            c.Past,
            .. seen.Select(f =>
            {
                var sign = knowledge.Sign(f.Sign);
                return Told(t => Line(t.Name(sign?.Name ?? f.Sign), Where(t, f.Place), f.Spot, f.Note), sign?.Also ?? []);
            }),
            .. outside.Select(f => Told(t => t.Say(Fact.Of("casebook.figure-out-of-limit", ("figure", f.Name), ("place", Where(t, f.Place)))))),
            .. found.Select(x => Told(t => Line(t.Name(knowledge.Cause(x.Cause)?.Name ?? ""), Where(t, x.Place), x.Reasons))),
            .. Core
                .Verdict.PartVerdict.Latest(c.Verdicts)
                .Values.Select(v =>
                    Told(t => Line(t.Name(knowledge.Courses.FirstOrDefault(k => k.Id == v.Course)?.Name ?? ""), Where(t, v.Place), v.Reason))
                ),
            .. c.Debris.Where(d => d.Stands()).Select(d => d.Note),
            .. c.Photos.Where(p => p.Stands()).Select(p => p.Caption),
            .. c.Parts.Where(p => p.Stands()).Select(p => p.Remarks),
            .. c.Candidates.Where(p => p.Stands()).Select(p => p.Name),
        ];
        return new CaseIndex
        {
            CaseId = c.Id,
            Revision = revision,
            Body = string.Join('\n', lines.Where(line => line.Length > 0).Distinct(StringComparer.Ordinal)),
            Signs = [.. seen.Select(f => f.Sign).Distinct(StringComparer.Ordinal)],
            Parts = [.. seen.Select(f => table.Find(f.Place)?.Kind.ReadAs).OfType<string>().Distinct(StringComparer.Ordinal)],
            Outside = [.. outside.Select(f => f.Characteristic).Distinct(StringComparer.Ordinal)],
            Causes = [.. found.Select(x => x.Cause).Where(x => x.Length > 0).Distinct(StringComparer.Ordinal)],
            People = [.. c.Records().Append(c).Where(r => !r.Imported).Select(r => r.By).Where(by => by.Length > 0).Distinct(StringComparer.Ordinal)],
            Present = [.. signs.Present.Select(p => $"{p.Key}#{p.Value}").Order(StringComparer.Ordinal)],
            LookedFor = [.. signs.LookedFor.Order(StringComparer.Ordinal)],
            Looked = [.. failed.Looked.Order(StringComparer.Ordinal)],
            Damaged = [.. failed.Damaged.Order(StringComparer.Ordinal)],
            Began = failed.Began,
            Figures = new Dictionary<string, double[]>(KindBackground.FiguresOf(c, table), StringComparer.Ordinal),
        };

        string Told(Func<Telling, string> say, params IReadOnlyList<string> also)
        {
            var line = say(shown ?? english);
            string[] others = [.. shown is null ? [] : new[] { say(english) }.Where(e => e != line), .. also];
            return others.Length > 0 ? $"{line} {CaseIndex.Also} {string.Join(' ', others)}" : line;
        }

        string Where(Telling t, string place) => table.Find(place) is { } at ? $"{t.Say(at.Words)} {at.Code}" : place;

        static string Line(params IEnumerable<string> parts) => string.Join(", ", parts.Where(p => !string.IsNullOrWhiteSpace(p)));
    }
}

/// <summary>
/// Something by which cases are picked out, and a case that has it: a row for each, so that the cases of a mark stand together, and of a common one no more are read than are asked for.
/// </summary>
public sealed class CaseMark
{
    /// <summary>One of <see cref="CaseMarks"/>.</summary>
    public string Mark { get; set; } = "";

    public Guid CaseId { get; set; }
}

/// <summary>What cases are picked out by.</summary>
public static class CaseMarks
{
    public static string Sign(string id) => $"sign:{id}";

    public static string Part(string kind) => $"part:{kind}";

    public static string Outside(string characteristic) => $"outside:{characteristic}";

    public static string Cause(string id) => $"cause:{id}";

    public static string Person(string name) => $"person:{name}";

    /// <summary>Of a decided case: it shows a sign on a kind of part.</summary>
    /// <param name="key">Without its spread: “overlay-wiped@shell-upper”.</param>
    public static string Shows(string key) => $"shows:{key}";

    public static IReadOnlyList<string> Of(CaseIndex of) =>
        [
            .. of.Signs.Select(Sign),
            .. of.Parts.Select(Part),
            .. of.Outside.Select(Outside),
            .. of.Causes.Select(Cause),
            .. of.People.Select(Person),
            // What is not decided is not held against another.
            .. of.Causes.Count == 0 ? [] : of.Present.Select(p => Shows(p.Split('#')[0])).Distinct(StringComparer.Ordinal),
        ];
}

/// <summary>A word that stands in some case: what a misspelt one is held against.</summary>
public sealed class CaseWord
{
    public string Word { get; set; } = "";
}

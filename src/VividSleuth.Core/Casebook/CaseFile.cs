using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using VividSleuth.Core.Build;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Casebook;

/// <summary>A picture inside a case file: the cleaned copy, without location, never the camera's original. Recordings go with a bag only.</summary>
public sealed record Picture(Guid Photo, string MediaType, byte[] Data);

/// <summary>
/// The open format of a case (JSON, versioned; the schema is in docs/): import, export, command line, demo data and tests
/// all use it.
/// </summary>
public sealed class CaseFile
{
    public const string FormatName = "vivid-sleuth-case";
    public const int CurrentVersion = 5;

    public string Format { get; set; } = FormatName;

    public int Version { get; set; } = CurrentVersion;

    public required EngineCase Case { get; set; }

    public List<Instrument> Instruments { get; set; } = [];

    public List<Picture> Pictures { get; set; } = [];

    public List<Change> Changes { get; set; } = [];

    /// <summary>How cases are written everywhere: camel case, enumerations by name.</summary>
    public static JsonSerializerOptions Json { get; } =
        new(JsonSerializerDefaults.Web)
        {
            Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
            WriteIndented = true,
            TypeInfoResolver = new System.Text.Json.Serialization.Metadata.DefaultJsonTypeInfoResolver(),
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            RespectNullableAnnotations = true,
            NumberHandling = JsonNumberHandling.Strict,
        };

    /// <summary>A name under which a case can be kept as a file anywhere, after its title.</summary>
    public static string NameOf(string title)
    {
        var words = new string([.. title.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : ' ')]).Split(
            ' ',
            StringSplitOptions.RemoveEmptyEntries
        );
        var name = string.Join('-', words);
        return name.Length == 0 ? "case" : name[..Math.Min(60, name.Length)].TrimEnd('-');
    }

    public string ToJson() => JsonSerializer.Serialize(this, Json);

    /// <summary>Reads a case file.</summary>
    /// <exception cref="ProblemException">It is no case file, is newer than this program, or does not hold together.</exception>
    public static CaseFile FromJson(string text) => FromJson(Encoding.UTF8.GetBytes(text));

    /// <summary>Reads a case file as it lies on a disk: UTF-8, with or without byte-order mark. What it holds is read once and kept once.</summary>
    /// <exception cref="ProblemException">It is no case file, is newer than this program, or does not hold together.</exception>
    public static CaseFile FromJson(ReadOnlyMemory<byte> data)
    {
        var utf8 = data.Span.StartsWith(Encoding.UTF8.Preamble) ? data[Encoding.UTF8.Preamble.Length..] : data;
        CaseFile? file;
        try
        {
            // Read apart first, so that a file of a later version is told as such and not as a misfit.
            var (format, version) = Head(utf8.Span);
            if (format != FormatName)
            {
                throw new ProblemException(Problem.Of("format", "casebook.no-case-file"));
            }

            if (version is not (>= 1 and <= CurrentVersion))
            {
                throw new ProblemException(
                    Problem.Of("version", "casebook.case-file-version-program-reads", ("version", version), ("currentVersion", CurrentVersion))
                );
            }

            // Version 2 kept of a verdict only what its figures were in words; version 3 did not keep who took a record back, nor what came from
            // elsewhere. Both are still read, and told as they stand.
            file = version == 1 ? FromVersion1(utf8.Span) : JsonSerializer.Deserialize<CaseFile>(utf8.Span, Json);
            if (version < 5)
            {
                file!.Case.Layout = Before5(file.Case.Layout);
            }

            file!.Version = CurrentVersion;
        }
        catch (JsonException e)
        {
            throw new ProblemException(Problem.Of("", "casebook.case-file-cannot-read", ("path", e.Path)));
        }
        catch (Exception e) when (e is InvalidOperationException or ArgumentException)
        {
            // Half a character, or a name that stands twice where it may stand once.
            throw new ProblemException(Problem.Of("", "casebook.case-file-cannot-read", ("path", "")));
        }

        var problems = file!.Check();
        return problems.Count > 0 ? throw new ProblemException(problems) : file;
    }

    /// <summary>A file that this program wrote of its own database: what stood there comes back, whatever a newer rule would say of it.</summary>
    public static CaseFile AsItStands(ReadOnlySpan<byte> utf8) => JsonSerializer.Deserialize<CaseFile>(utf8, Json)!;

    /// <summary>Format and version, wherever they stand in the file; nothing else of it is kept.</summary>
    private static (string? Format, int? Version) Head(ReadOnlySpan<byte> utf8)
    {
        (string? Format, int? Version) head = default;
        var reader = new Utf8JsonReader(utf8);
        if (!reader.Read() || reader.TokenType != JsonTokenType.StartObject)
        {
            return head;
        }

        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var (isFormat, isVersion) = (reader.ValueTextEquals("format"), reader.ValueTextEquals("version"));
            reader.Read();
            if (isFormat && reader.TokenType == JsonTokenType.String)
            {
                head.Format = reader.GetString();
            }
            else if (isVersion && reader.TokenType == JsonTokenType.Number && reader.TryGetInt32(out var version))
            {
                head.Version = version;
            }
            else
            {
                reader.Skip();
            }
        }

        return head;
    }

    /// <summary>Up to version 4 the third ring of every piston was an oil ring.</summary>
    private static EngineLayout Before5(EngineLayout layout) =>
        layout.RingsPerPiston == 3 && layout.OilRings is null ? layout with { OilRings = 1 } : layout;

    /// <summary>Version 1 called a cause a story.</summary>
    private static CaseFile? FromVersion1(ReadOnlySpan<byte> utf8)
    {
        var head = JsonNode.Parse(utf8)!;
        var conclusions = head["case"]?["conclusions"] as JsonArray;
        foreach (var conclusion in conclusions?.OfType<JsonObject>() ?? [])
        {
            foreach (var (old, now) in new[] { ("story", "cause"), ("computedStory", "computedCause") })
            {
                if (conclusion.Remove(old, out var value))
                {
                    conclusion[now] = value;
                }
            }
        }

        return head.Deserialize<CaseFile>(Json);
    }

    /// <summary>Whether the file holds together: a possible layout, every place an address, every id once.</summary>
    public IReadOnlyList<Problem> Check()
    {
        var problems = new List<Problem>(InputRules.Check(this));
        if (problems.Count > 0)
        {
            return problems;
        }

        problems.AddRange(Case.Layout.Check());
        if (problems.Count > 0)
        {
            return problems;
        }

        problems.AddRange(Case.Candidates.SelectMany(c => CandidateSets.Check(c, null, Case.Candidates)));
        if (problems.Count > 0)
        {
            return problems;
        }

        var table = Case.Places();
        problems.AddRange(Case.Stows.Where(s => s.Stands()).SelectMany(s => StowRules.Check(s, table, Case.Stows)));
        foreach (var (place, field) in Places())
        {
            if (table.Find(place) is null)
            {
                problems.Add(Problem.Of(field, "casebook.no-address", ("place", place)));
            }
        }

        var repeated = Records().GroupBy(r => r.Id).Where(g => g.Count() > 1).Select(g => g.Key).ToArray();
        problems.AddRange(repeated.Select(id => Problem.Of("id", "casebook.id-stands-two-records", ("id", id))));
        var photos = Case.Photos.Select(p => p.Id).ToHashSet();
        problems.AddRange(
            Case.PhotoMarks.Where(m => !photos.Contains(m.Photo))
                .Select(m => Problem.Of("photoMarks", "casebook.mark-lies-photograph-file-does", ("photo", m.Photo)))
        );
        var marks = Case.PhotoMarks.Select(m => m.Id).ToHashSet();
        problems.AddRange(
            Case.Findings.Where(f => f.Marks.Exists(m => !marks.Contains(m)))
                .Select(f => Problem.Of("findings.marks", "casebook.finding-points-mark-file-does", ("place", f.Place)))
        );
        var lines = Case.OrderLines.Select(l => l.Id).ToHashSet();
        problems.AddRange(
            Case.OrderMoves.Where(m => !lines.Contains(m.Line))
                .Select(m => Problem.Of("orderMoves", "casebook.move-of-a-line-file-does", ("line", m.Line)))
        );
        problems.AddRange(
            Pictures
                .Where(p => !photos.Contains(p.Photo))
                .Select(p => Problem.Of("pictures", "casebook.picture-belongs-photograph-file-does", ("photo", p.Photo)))
        );
        return problems;
    }

    /// <summary>Checks the names that the case uses against what a knowledge base knows: signs, where they may lie, their levels, and risks.</summary>
    /// <exception cref="ProblemException">Something is not known; each is named.</exception>
    public CaseFile KnownTo(KnowledgeBase knowledge)
    {
        var table = Case.Places();
        var problems = Case
            .Findings.Where(f => f.Stands())
            .Select(f =>
                FindingRules.Check(f, table.Find(f.Place)!, table.Engine, knowledge) is { } p ? p with { Field = $"findings.{p.Field}" } : null
            )
            .OfType<Problem>()
            .Concat(
                Case.Risks.Keys.Where(r => knowledge.Risks.All(k => k.Id != r)).Select(r => Problem.Of("risks", "casebook.no-such-risk", ("risk", r)))
            )
            .Distinct()
            .ToArray();
        return problems.Length > 0 ? throw new ProblemException(problems) : this;
    }

    /// <summary>
    /// Gives the case and all its records other ids, for importing beside the one it came from. They follow from the given one, so that the same file
    /// becomes the same case however often it is sent.
    /// </summary>
    /// <param name="space">Stands for the file.</param>
    /// <returns>This file.</returns>
    public CaseFile WithIdsOf(Guid space)
    {
        Guid Fresh(Guid old) => DerivedId.Of(space, old.ToString());

        Case.ImportedFrom = Case.Id;
        Case.Id = Fresh(Case.Id);
        foreach (var record in Records())
        {
            record.Id = Fresh(record.Id);
            record.CaseId = Case.Id;
        }

        foreach (var reading in Case.Readings)
        {
            reading.Corrects = reading.Corrects is { } old ? Fresh(old) : null;
            reading.Picture = reading.Picture is { } picture ? Fresh(picture) : null;
        }

        foreach (var finding in Case.Findings)
        {
            finding.Marks = [.. finding.Marks.Select(Fresh)];
        }

        foreach (var mark in Case.PhotoMarks)
        {
            mark.Photo = Fresh(mark.Photo);
        }

        foreach (var measure in Case.PictureMeasures)
        {
            measure.Photo = Fresh(measure.Photo);
        }

        foreach (var verdict in Case.Verdicts)
        {
            verdict.Together = verdict.Together is { } together ? Fresh(together) : null;
        }

        foreach (var choice in Case.Choices)
        {
            choice.Option = Fresh(choice.Option);
        }

        foreach (var answer in Case.OptionAnswers)
        {
            answer.Option = Fresh(answer.Option);
            answer.Link = Fresh(answer.Link);
        }

        foreach (var move in Case.OrderMoves)
        {
            move.Line = Fresh(move.Line);
        }

        foreach (var task in Case.BuildTasks)
        {
            task.Renew(Fresh);
        }

        foreach (var act in Case.BackActs)
        {
            act.Line = act.Line is { } line ? Fresh(line) : null;
        }

        foreach (var move in Case.FastenerMoves)
        {
            move.Line = move.Line is { } line ? Fresh(line) : null;
        }

        foreach (var offer in Case.Offers)
        {
            offer.Line = offer.Line is { } line ? Fresh(line) : null;
        }

        foreach (var candidate in Case.Candidates)
        {
            candidate.Line = candidate.Line is { } line ? Fresh(line) : null;
        }

        Pictures = [.. Pictures.Select(p => p with { Photo = Fresh(p.Photo) })];
        foreach (var (at, change) in Changes.Index())
        {
            change.Id = DerivedId.Of(space, $"change/{at}");
            change.CaseId = Case.Id;
            change.RecordId = Fresh(change.RecordId);
        }

        return this;
    }

    /// <summary>Marks all that was written elsewhere: its names and times are what the file says, and nobody of this shop.</summary>
    public CaseFile FromElsewhere()
    {
        Case.Imported = true;
        // Kinds of engines are the shop's: figures of theirs came along, what they are kept under here did not.
        (Case.KindId, Case.KindVersion, Case.ComebackOf) = (null, 0, null);
        foreach (var record in Records())
        {
            record.Imported = true;
        }

        Changes.ForEach(c => c.Imported = true);
        Instruments.ForEach(i => i.Imported = true);
        return this;
    }

    /// <summary>JSON Schema of the file, made from the classes themselves.</summary>
    public static string Schema()
    {
        var schema = JsonSchemaExporter
            .GetJsonSchemaAsNode(Json, typeof(CaseFile), new JsonSchemaExporterOptions { TreatNullObliviousAsNonNullable = true })
            .AsObject();
        var head = new JsonObject { ["$schema"] = "https://json-schema.org/draft/2020-12/schema", ["title"] = "Vivid Sleuth case file" };
        foreach (var (key, value) in schema)
        {
            head[key] = value?.DeepClone();
        }

        head["properties"]!["format"] = new JsonObject { ["const"] = FormatName };
        head["properties"]!["version"] = new JsonObject { ["const"] = CurrentVersion };
        return head.ToJsonString(Json) + "\n";
    }

    private IEnumerable<CaseRecord> Records() => Case.Records();

    private IEnumerable<(string Place, string Field)> Places() =>
        [
            .. Case.Parts.Select(p => (p.Place, "parts.place")),
            .. Case.Parts.Where(p => p.On.Length > 0).Select(p => (p.On, "parts.on")),
            .. Case.Findings.Select(f => (f.Place, "findings.place")),
            .. Case.Photos.Select(p => (p.Place, "photos.place")),
            .. Case.Debris.Select(d => (d.Place, "debris.place")),
            .. Case.Readings.Select(r => (r.Place, "readings.place")),
            .. Case.Verdicts.Select(v => (v.Place, "verdicts.place")),
            .. Case.Examinations.Select(e => (e.Place, "examinations.place")),
            .. Case.OrderLines.SelectMany(l => l.Places).Select(p => (p, "orderLines.places")),
            .. Case.BackActs.Where(a => a.Kind is BackActKind.Fitted or BackActKind.TakenOut).Select(a => (a.Of, "backActs.of")),
            .. Case.BackActs.Where(a => a.Tag.Length > 0).Select(a => (a.Tag, "backActs.tag")),
            .. Case.Conclusions.Where(c => c.Place.Length > 0).Select(c => (c.Place, "conclusions.place")),
        ];
}

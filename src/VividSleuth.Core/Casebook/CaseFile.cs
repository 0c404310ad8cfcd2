using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Casebook;

/// <summary>A picture inside a case file: the cleaned copy, without location, never the camera's original.</summary>
public sealed record Picture(Guid Photo, string MediaType, byte[] Data);

/// <summary>
/// The open format of a case (JSON, versioned; the schema is in docs/): import, export, command line, demo data and tests
/// all use it.
/// </summary>
public sealed class CaseFile
{
    public const string FormatName = "vivid-sleuth-case";
    public const int CurrentVersion = 3;

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
            Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
            WriteIndented = true,
            TypeInfoResolver = new System.Text.Json.Serialization.Metadata.DefaultJsonTypeInfoResolver(),
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            RespectNullableAnnotations = true,
            NumberHandling = JsonNumberHandling.Strict,
        };

    public string ToJson() => JsonSerializer.Serialize(this, Json);

    /// <summary>Reads a case file.</summary>
    /// <exception cref="ProblemException">It is no case file, is newer than this program, or does not hold together.</exception>
    public static CaseFile FromJson(string text)
    {
        CaseFile? file;
        try
        {
            // Read apart first, so that a file of a later version is told as such and not as a misfit.
            var head = JsonNode.Parse(text) as JsonObject;
            if (head?["format"]?.ToString() != FormatName)
            {
                throw new ProblemException(Problem.Of("format", "casebook.no-case-file"));
            }

            if (!int.TryParse(head["version"]?.ToString(), out var version) || version is < 1 or > CurrentVersion)
            {
                throw new ProblemException(
                    Problem.Of(
                        "version",
                        "casebook.case-file-version-program-reads",
                        ("version", head["version"]?.ToString()),
                        ("currentVersion", CurrentVersion)
                    )
                );
            }

            if (version == 1)
            {
                FromVersion1(head);
            }

            // Version 2 kept of a verdict only what its figures were in words; it is still read, and told as it stands.
            head["version"] = CurrentVersion;
            file = head.Deserialize<CaseFile>(Json);
        }
        catch (JsonException e)
        {
            throw new ProblemException(Problem.Of("", "casebook.case-file-cannot-read", ("path", e.Path)));
        }

        var problems = file!.Check();
        return problems.Count > 0 ? throw new ProblemException(problems) : file;
    }

    /// <summary>Version 1 called a cause a story.</summary>
    private static void FromVersion1(JsonObject head)
    {
        if (head["case"]?["conclusions"] is not JsonArray conclusions)
        {
            return;
        }

        foreach (var conclusion in conclusions.OfType<JsonObject>())
        {
            foreach (var (old, now) in new[] { ("story", "cause"), ("computedStory", "computedCause") })
            {
                if (conclusion.Remove(old, out var value))
                {
                    conclusion[now] = value;
                }
            }
        }
    }

    /// <summary>Whether the file holds together: a possible layout, every place an address, every id once.</summary>
    public IReadOnlyList<Problem> Check()
    {
        var problems = new List<Problem>(Case.Layout.Check());
        if (problems.Count > 0)
        {
            return problems;
        }

        var table = new AddressTable(Engine.From(Case.Layout));
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
        problems.AddRange(
            Pictures
                .Where(p => !photos.Contains(p.Photo))
                .Select(p => Problem.Of("pictures", "casebook.picture-belongs-photograph-file-does", ("photo", p.Photo)))
        );
        return problems;
    }

    /// <summary>The same case with fresh ids throughout, for importing beside the one it came from.</summary>
    public CaseFile WithFreshIds(Func<Guid> newId)
    {
        var fresh = new Dictionary<Guid, Guid>();
        Guid Fresh(Guid old) => fresh.TryGetValue(old, out var known) ? known : fresh[old] = newId();

        var copy = JsonSerializer.Deserialize<CaseFile>(ToJson(), Json)!;
        copy.Case.ImportedFrom = copy.Case.Id;
        copy.Case.Id = Fresh(copy.Case.Id);
        foreach (var record in copy.Records())
        {
            record.Id = Fresh(record.Id);
            record.CaseId = copy.Case.Id;
        }

        foreach (var reading in copy.Case.Readings)
        {
            reading.Corrects = reading.Corrects is { } old ? Fresh(old) : null;
        }

        foreach (var finding in copy.Case.Findings)
        {
            finding.Marks = [.. finding.Marks.Select(Fresh)];
        }

        foreach (var mark in copy.Case.PhotoMarks)
        {
            mark.Photo = Fresh(mark.Photo);
        }

        copy.Pictures = [.. copy.Pictures.Select(p => p with { Photo = Fresh(p.Photo) })];
        foreach (var change in copy.Changes)
        {
            change.Id = newId();
            change.CaseId = copy.Case.Id;
            change.RecordId = Fresh(change.RecordId);
        }

        return copy;
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
            .. Case.Findings.Select(f => (f.Place, "findings.place")),
            .. Case.Photos.Select(p => (p.Place, "photos.place")),
            .. Case.Debris.Select(d => (d.Place, "debris.place")),
            .. Case.Readings.Select(r => (r.Place, "readings.place")),
            .. Case.Verdicts.Select(v => (v.Place, "verdicts.place")),
            .. Case.Conclusions.Where(c => c.Place.Length > 0).Select(c => (c.Place, "conclusions.place")),
        ];
}

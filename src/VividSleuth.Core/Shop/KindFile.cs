using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using YamlDotNet.Core;
using YamlDotNet.Serialization;

namespace VividSleuth.Core.Shop;

/// <summary>What the shop learned at a step, as it is handed on with a kind.</summary>
public sealed class KindLesson
{
    /// <summary>Id of the step of the strip.</summary>
    public string Step { get; set; } = "";

    public string Text { get; set; } = "";
}

/// <summary>
/// A kind of engine as a file of YAML, to review and to hand to another shop: its sheet, the script of the shop where it is none that ships, and what was
/// learned. Lengths are in mm, torques in N·m, weights in g, pressures in kPa. The layout of the file is in docs/kind-file.schema.json.
/// </summary>
public sealed class KindFile
{
    public const string FormatName = "vivid-sleuth-kind";
    public const int CurrentVersion = 1;

    /// <summary>Characters of a file.</summary>
    public const int Most = 1_000_000;

    public string Format { get; set; } = "";

    public int Version { get; set; }

    /// <summary>The shop that wrote it, as it calls itself.</summary>
    public string From { get; set; } = "";

    public KindSheet Kind { get; set; } = new();

    /// <summary>The strip script of the shop that it goes by; null where it is one that ships.</summary>
    public StripScript? Script { get; set; }

    public List<KindLesson> Lessons { get; set; } = [];

    /// <exception cref="ProblemException">The text is no such file; the problem names the line.</exception>
    public static KindFile Read(string name, string text)
    {
        if (text.Length > Most)
        {
            throw new ProblemException(Problem.Of(name, "shop.kind-file-too-long", ("most", Most / 1000)));
        }

        KindFile? file;
        try
        {
            file = Reading().Build().Deserialize<KindFile?>(text);
        }
        catch (YamlException e)
        {
            throw CauseFile.NotRead(name, e);
        }

        if (file is null || file.Format != FormatName)
        {
            throw new ProblemException(Problem.Of(name, "shop.no-kind-file"));
        }

        if (file.Version is < 1 or > CurrentVersion)
        {
            throw new ProblemException(Problem.Of(name, "shop.kind-file-is-newer", ("version", file.Version), ("known", CurrentVersion)));
        }

        // A key without a value makes a list nothing, and so does a dash without one.
        return InputRules.Check(file) is { Count: > 0 } problems ? throw new ProblemException(problems) : file;
    }

    public string Write() => YamlOut.Write(this, without: typeof(CaseRecord));

    /// <summary>JSON Schema of the file, made from the classes themselves.</summary>
    public static string Schema()
    {
        var resolver = new DefaultJsonTypeInfoResolver();
        resolver.Modifiers.Add(type =>
        {
            // What a record of a case says of its case is nothing of the file, nor is what follows from the rest.
            foreach (
                var p in type
                    .Properties.Where(p =>
                        p.AttributeProvider is System.Reflection.PropertyInfo { DeclaringType: var of } info
                        && (of == typeof(CaseRecord) || !info.CanWrite)
                    )
                    .ToArray()
            )
            {
                type.Properties.Remove(p);
            }

            foreach (var p in type.Properties)
            {
                // What is left out is as usual.
                p.IsRequired = false;
            }
        });
        var schema = JsonSchemaExporter
            .GetJsonSchemaAsNode(
                new JsonSerializerOptions(JsonSerializerDefaults.Web)
                {
                    Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false) },
                    NumberHandling = JsonNumberHandling.Strict,
                    WriteIndented = true,
                    TypeInfoResolver = resolver,
                    UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
                },
                typeof(KindFile)
            )
            .AsObject();
        var head = new JsonObject { ["$schema"] = "https://json-schema.org/draft/2020-12/schema", ["title"] = "Vivid Sleuth kind of engine" };
        foreach (var (key, value) in schema)
        {
            head[key] = value?.DeepClone();
        }

        head["type"] = "object";
        head["required"] = new JsonArray("format", "version", "kind");
        head["properties"]!["format"] = new JsonObject { ["const"] = FormatName };
        head["properties"]!["version"] = new JsonObject { ["const"] = CurrentVersion };
        return head.ToJsonString(CaseFile.Json) + "\n";
    }

    /// <summary>Who wrote a figure in which case is nothing of the kind: a file that says so is refused, as any word that is none of it.</summary>
    private static DeserializerBuilder Reading() =>
        typeof(CaseRecord)
            .GetProperties()
            .Aggregate(
                KnowledgeReader
                    .Reading()
                    .WithTypeMapping<IReadOnlyList<string>, List<string>>()
                    .WithTypeMapping<IReadOnlyList<OwnPart>, List<OwnPart>>(),
                (b, p) => b.WithAttributeOverride(typeof(CaseRecord), p.Name, new YamlIgnoreAttribute())
            );
}

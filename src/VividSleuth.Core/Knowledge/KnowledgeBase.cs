using VividSleuth.Core.Index;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;

namespace VividSleuth.Core.Knowledge;

/// <summary>
/// What the trade knows, read from the YAML files in knowledge/. It refuses to load when an entry is unreadable or points to
/// nothing, and names the file and the line or the entry.
/// </summary>
public sealed class KnowledgeBase
{
    private const string Root = "knowledge/";
    private static readonly Lazy<KnowledgeBase> Shipped = new(() => Load(ShippedFiles()));

    private readonly Dictionary<string, SignEntry> _signs;
    private readonly Dictionary<string, StoryEntry> _stories;
    private readonly Dictionary<string, CharacteristicEntry> _characteristics;

    private KnowledgeBase(Reader reader)
    {
        Signs = reader.Signs;
        Stories = reader.Stories;
        Characteristics = reader.Characteristics;
        RulesOfThumb = reader.Rules;
        Risks = reader.Risks;
        StripSteps = reader.Steps;
        _signs = Signs.ToDictionary(s => s.Id, StringComparer.Ordinal);
        _stories = Stories.ToDictionary(s => s.Id, StringComparer.Ordinal);
        _characteristics = Characteristics.ToDictionary(c => c.Id, StringComparer.Ordinal);
    }

    /// <summary>The knowledge that ships with the program.</summary>
    public static KnowledgeBase BuiltIn => Shipped.Value;

    public IReadOnlyList<SignEntry> Signs { get; }

    public IReadOnlyList<StoryEntry> Stories { get; }

    public IReadOnlyList<CharacteristicEntry> Characteristics { get; }

    public IReadOnlyList<RuleOfThumbEntry> RulesOfThumb { get; }

    public IReadOnlyList<RiskEntry> Risks { get; }

    public IReadOnlyList<StripStep> StripSteps { get; }

    public SignEntry? Sign(string id) => _signs.GetValueOrDefault(id);

    public StoryEntry? Story(string id) => _stories.GetValueOrDefault(id);

    public CharacteristicEntry? Characteristic(string id) => _characteristics.GetValueOrDefault(id);

    /// <param name="files">Name and text of each file; the folder in the name says what it holds.</param>
    /// <exception cref="ProblemException">A file cannot be read or does not lint; each problem names the file.</exception>
    public static KnowledgeBase Load(IEnumerable<(string Name, string Text)> files)
    {
        var reader = new Reader();
        foreach (var (name, text) in files)
        {
            reader.Read(name, text);
        }

        reader.Lint();
        return reader.Problems.Count > 0 ? throw new ProblemException(reader.Problems) : new KnowledgeBase(reader);
    }

    /// <summary>Name and text of the files that ship with the program.</summary>
    public static IEnumerable<(string Name, string Text)> ShippedFiles()
    {
        var assembly = typeof(KnowledgeBase).Assembly;
        foreach (
            var name in assembly.GetManifestResourceNames().Where(n => n.StartsWith(Root, StringComparison.Ordinal)).Order(StringComparer.Ordinal)
        )
        {
            using var stream = assembly.GetManifestResourceStream(name)!;
            using var text = new StreamReader(stream);
            yield return (name, text.ReadToEnd());
        }
    }

    private sealed class Reader
    {
        private readonly IDeserializer _yaml = new DeserializerBuilder()
            .WithNamingConvention(CamelCaseNamingConvention.Instance)
            .WithEnumNamingConvention(HyphenatedNamingConvention.Instance)
            .WithDuplicateKeyChecking()
            .Build();

        private readonly Dictionary<Entry, string> _fileOf = [];

        public List<SignEntry> Signs { get; } = [];

        public List<StoryEntry> Stories { get; } = [];

        public List<CharacteristicEntry> Characteristics { get; } = [];

        public List<RuleOfThumbEntry> Rules { get; } = [];

        public List<RiskEntry> Risks { get; } = [];

        public List<StripStep> Steps { get; } = [];

        public List<Problem> Problems { get; } = [];

        public void Read(string name, string text)
        {
            try
            {
                switch (name.Split('/')[^2])
                {
                    case "signs":
                        Take(name, Signs, text);
                        break;
                    case "stories":
                        Take(name, Stories, text);
                        break;
                    case "risks":
                        Take(name, Risks, text);
                        break;
                    case "characteristics":
                        Take(name, Characteristics, text);
                        break;
                    case "limits":
                        Take(name, Rules, text);
                        break;
                    case "strip":
                        Take(name, Steps, text);
                        break;
                    default:
                        Problems.Add(
                            new Problem(
                                name,
                                "No kind of knowledge lives in this folder.",
                                "Move the file to signs, stories, risks, characteristics, limits or strip."
                            )
                        );
                        break;
                }
            }
            catch (YamlException e)
            {
                var why = e.InnerException?.Message ?? e.Message;
                Problems.Add(new Problem($"{name}:{e.Start.Line}", $"Line {e.Start.Line} cannot be read: {why}", "Mend the line."));
            }
        }

        public void Lint()
        {
            foreach (var (entry, file) in _fileOf)
            {
                Need(entry, entry.Id.Length > 0, "An entry has no id.", "Give it one.");
                Need(entry, entry.Name.Length > 0, $"“{entry.Id}” has no name.", "Give it one.");
                Need(
                    entry,
                    entry is StripStep || entry.Provenance.Length > 0,
                    $"“{entry.Id}” does not say where it comes from.",
                    "Add its provenance."
                );
            }

            foreach (var twice in _fileOf.Keys.GroupBy(e => (e.GetType(), e.Id)).Where(g => g.Count() > 1))
            {
                Need(twice.Last(), false, $"The id “{twice.Key.Id}” stands twice.", "Rename one of them.");
            }

            var signs = Signs.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
            var risks = Risks.Select(r => r.Id).ToHashSet(StringComparer.Ordinal);
            var characteristics = Characteristics.Select(c => c.Id).ToHashSet(StringComparer.Ordinal);
            foreach (var sign in Signs)
            {
                Kinds(sign, sign.On);
                Need(sign, sign.Measured || sign.Levels.Count == 3, $"“{sign.Id}” needs three levels.", "Say what slight, marked and severe mean.");
            }

            foreach (var characteristic in Characteristics)
            {
                Kinds(characteristic, characteristic.On);
            }

            foreach (var rule in Rules)
            {
                Need(
                    rule,
                    characteristics.Contains(rule.Characteristic) && characteristics.Contains(rule.Of),
                    $"“{rule.Id}” speaks of an unknown characteristic.",
                    "Use an id from characteristics/."
                );
            }

            foreach (var story in Stories)
            {
                Need(
                    story,
                    story.Chain.Count > 0 && story.Chain.Any(l => l.Predicts.Count > 0),
                    $"“{story.Id}” predicts nothing.",
                    "Give its chain signs."
                );
                Kinds(story, [story.Seat]);
                foreach (var risk in story.Risks)
                {
                    Need(
                        story,
                        risks.Contains(risk.Risk) && risk.Times > 0,
                        $"“{story.Id}” names the unknown risk “{risk.Risk}”.",
                        "Use an id from risks/ and a factor above 0."
                    );
                }

                foreach (var prediction in story.Chain.SelectMany(l => l.Predicts))
                {
                    Need(
                        story,
                        signs.Contains(prediction.Sign),
                        $"“{story.Id}” predicts the unknown sign “{prediction.Sign}”.",
                        "Use an id from signs/."
                    );
                    Kinds(story, prediction.On);
                    var wrong = Signs.Find(s => s.Id == prediction.Sign)?.On is { } on
                        ? prediction.On.Except(on, StringComparer.Ordinal).FirstOrDefault()
                        : null;
                    Need(
                        story,
                        wrong is null,
                        $"“{story.Id}” looks for “{prediction.Sign}” on {wrong}, where it is never found.",
                        "Add the kind to the sign, or correct the story."
                    );
                }
            }

            var steps = Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
            foreach (var step in Steps)
            {
                Kinds(step, [.. step.Exposes, .. step.ReadFirst]);
                var unknown = step.After.Keys.FirstOrDefault(k => !steps.Contains(k));
                Need(step, unknown is null, $"“{step.Id}” must follow “{unknown}”, which is no step.", "Correct the id.");
            }
        }

        private void Take<T>(string name, List<T> list, string text)
            where T : Entry
        {
            foreach (var entry in _yaml.Deserialize<List<T>>(text) ?? [])
            {
                list.Add(entry);
                _fileOf[entry] = name;
            }
        }

        private void Kinds(Entry entry, List<string> kinds)
        {
            var unknown = kinds.Find(k => PartKinds.Find(k) is null);
            Need(entry, unknown is null, $"“{entry.Id}” names the unknown kind of part “{unknown}”.", "Use an id from the table of kinds.");
        }

        private void Need(Entry entry, bool holds, string text, string remedy)
        {
            if (!holds)
            {
                Problems.Add(new Problem(_fileOf[entry], text, remedy));
            }
        }
    }
}

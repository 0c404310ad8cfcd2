using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
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
    private const string Common = "common";
    private static readonly Lazy<KnowledgeBase> Shipped = new(() => Load(ShippedFiles()));

    private readonly Dictionary<string, SignEntry> _signs;
    private readonly Dictionary<string, StoryEntry> _stories;
    private readonly Dictionary<string, CharacteristicEntry> _characteristics;
    private readonly Dictionary<string, StripScript> _scripts;

    private readonly ILookup<string, ShotEntry> _shotsOf;
    private readonly ILookup<string, SignEntry> _signsOn;

    private KnowledgeBase(Reader reader)
    {
        Signs = reader.Signs;
        Stories = reader.Stories;
        Characteristics = reader.Characteristics;
        RulesOfThumb = reader.Rules;
        Risks = reader.Risks;
        Shots = reader.Shots;
        DebrisSources = reader.DebrisSources;
        _shotsOf = Shots.SelectMany(s => s.On.Select(k => (k, s))).ToLookup(x => x.k, x => x.s, StringComparer.Ordinal);
        StripScripts = [.. reader.Scripts.Where(s => s.Id != Common)];
        _signsOn = Signs.Where(s => !s.Measured).SelectMany(s => s.On.Select(k => (k, s))).ToLookup(x => x.k, x => x.s, StringComparer.Ordinal);
        _signs = Signs.ToDictionary(s => s.Id, StringComparer.Ordinal);
        _stories = Stories.ToDictionary(s => s.Id, StringComparer.Ordinal);
        _characteristics = Characteristics.ToDictionary(c => c.Id, StringComparer.Ordinal);
        _scripts = StripScripts.ToDictionary(s => s.Id, StringComparer.Ordinal);
    }

    /// <summary>The knowledge that ships with the program.</summary>
    public static KnowledgeBase BuiltIn => Shipped.Value;

    public IReadOnlyList<SignEntry> Signs { get; }

    public IReadOnlyList<StoryEntry> Stories { get; }

    public IReadOnlyList<CharacteristicEntry> Characteristics { get; }

    public IReadOnlyList<RuleOfThumbEntry> RulesOfThumb { get; }

    public IReadOnlyList<RiskEntry> Risks { get; }

    public IReadOnlyList<ShotEntry> Shots { get; }

    public IReadOnlyList<DebrisSourceEntry> DebrisSources { get; }

    /// <summary>The strip scripts, each with the common steps it takes over.</summary>
    public IReadOnlyList<StripScript> StripScripts { get; }

    /// <summary>The shot list of a kind of part.</summary>
    public IEnumerable<ShotEntry> ShotsOf(string kind) => _shotsOf[kind];

    /// <summary>Signs that can be looked for on a kind of part.</summary>
    public IEnumerable<SignEntry> SignsOn(string kind) => _signsOn[kind];

    public SignEntry? Sign(string id) => _signs.GetValueOrDefault(id);

    public StoryEntry? Story(string id) => _stories.GetValueOrDefault(id);

    public StripScript? Script(string id) => _scripts.GetValueOrDefault(id);

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

        public List<StripScript> Scripts { get; } = [];

        public List<ShotEntry> Shots { get; } = [];

        public List<DebrisSourceEntry> DebrisSources { get; } = [];

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
                    case "shots":
                        Take(name, Shots, text);
                        break;
                    case "debris":
                        Take(name, DebrisSources, text);
                        break;
                    case "strip":
                        Take(name, Scripts, text);
                        break;
                    default:
                        Problems.Add(
                            new Problem(
                                name,
                                "No kind of knowledge lives in this folder.",
                                "Move the file to signs, stories, risks, characteristics, limits, shots, debris or strip."
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
                Need(entry, entry.Provenance.Length > 0, $"“{entry.Id}” does not say where it comes from.", "Add its provenance.");
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
                LintSeen(sign, _fileOf[sign]);
                LintPattern(sign, signs, characteristics);
            }

            foreach (var shot in Shots)
            {
                Kinds(shot, shot.On);
                Need(
                    shot,
                    shot is { On.Count: > 0, How.Length: > 0, Why.Length: > 0 },
                    $"“{shot.Id}” does not say of what, how or why.",
                    "Say all three."
                );
            }

            foreach (var source in DebrisSources)
            {
                Kinds(source, source.From);
                Need(source, source.Material.Count > 0, $"“{source.Id}” is of no material.", "Give at least one.");
                Need(
                    source,
                    source.Sign.Length == 0 || signs.Contains(source.Sign),
                    $"“{source.Id}” names the unknown sign “{source.Sign}”.",
                    "Use an id from signs/."
                );
            }

            foreach (var characteristic in Characteristics)
            {
                Kinds(characteristic, characteristic.On);
                Need(characteristic, characteristic.On.Count > 0, $"“{characteristic.Id}” is measured on nothing.", "Give the kinds of part.");
                Need(
                    characteristic,
                    characteristic.Derived || characteristic is { With.Length: > 0, How.Length: > 0, Held.Length: > 0, Spoils.Length: > 0 },
                    $"“{characteristic.Id}” does not say with what, how, how it is held, or what spoils it.",
                    "Say all four."
                );
                Need(
                    characteristic,
                    characteristic.Unit.Length == 0 || QuantityParser.IsUnit(characteristic.Unit, characteristic.Quantity),
                    $"“{characteristic.Id}” is told in “{characteristic.Unit}”, which does not fit.",
                    "Use a unit of its quantity."
                );
                foreach (var term in characteristic.Ways.SelectMany(w => w))
                {
                    Kinds(characteristic, term.On);
                    Need(
                        characteristic,
                        characteristics.Contains(term.Of) && (term.On.Count == 1 || term.On.Count == characteristic.On.Count),
                        $"“{characteristic.Id}” is a sum of the unknown “{term.Of}”, or of kinds that do not pair.",
                        "Use an id from characteristics/, and one kind or as many as the sum is on."
                    );
                }
            }

            foreach (var rule in Rules)
            {
                Need(
                    rule,
                    characteristics.Contains(rule.Characteristic) && (rule.Of.Length == 0 || characteristics.Contains(rule.Of)),
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

            LintScripts();
        }

        private void LintSeen(SignEntry sign, string file)
        {
            sign.Chapter = sign.Chapter.Length > 0 ? sign.Chapter : Path.GetFileNameWithoutExtension(file);
            if (sign.Measured)
            {
                return;
            }

            Need(
                sign,
                sign is { Looks.Length: > 0, How.Length: > 0, ConfusedWith.Length: > 0 },
                $"“{sign.Id}” does not say what it looks like, how to look or what it is confused with.",
                "Say all three."
            );
            try
            {
                SignDrawing.Parse(sign.Draw);
            }
            catch (FormatException e)
            {
                Need(sign, false, $"The drawing of “{sign.Id}” cannot be drawn: {e.Message}", "Mend its line “draw”.");
            }
        }

        private void LintPattern(SignEntry sign, HashSet<string> signs, HashSet<string> characteristics)
        {
            if (sign.Pattern is not { } pattern)
            {
                return;
            }

            Need(
                sign,
                pattern.Shape is PatternShape.AlongTheOil or PatternShape.TowardOneEnd or PatternShape.AllAlike,
                $"“{sign.Id}” is a pattern that no test speaks of.",
                "Use along-the-oil, toward-one-end or all-alike; the other shapes weigh by the places of each sign."
            );
            var unknown = pattern.Of.Find(s => !signs.Contains(s)) ?? pattern.Figures.Find(c => !characteristics.Contains(c));
            Need(sign, unknown is null, $"“{sign.Id}” is a pattern of the unknown “{unknown}”.", "Use ids from signs/ and characteristics/.");
        }

        private void LintScripts()
        {
            var common = Scripts.Find(s => s.Id == Common)?.Steps.ToDictionary(s => s.Id, StringComparer.Ordinal) ?? [];
            foreach (var script in Scripts.Where(s => s.Id != Common))
            {
                var missing = script.Uses.Find(u => !common.ContainsKey(u));
                Need(script, missing is null, $"“{script.Id}” uses “{missing}”, which is no common step.", "Correct the id.");
                script.Steps = [.. script.Uses.Where(common.ContainsKey).Select(u => common[u]), .. script.Steps];
            }

            foreach (var script in Scripts.Where(s => s.Extends.Length > 0))
            {
                var other = Scripts.TakeWhile(s => s != script).FirstOrDefault(s => s.Id == script.Extends);
                Need(
                    script,
                    other is not null,
                    $"“{script.Id}” extends “{script.Extends}”, which does not come before it.",
                    "Correct the id or the order."
                );
                script.Steps = other is null ? script.Steps : Extended(other, script);
                script.Uses = [.. script.Uses, .. other?.Uses ?? []];
            }

            foreach (var script in Scripts.Where(s => s.Id != Common))
            {
                var ids = script.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
                Need(script, ids.Count == script.Steps.Count, $"“{script.Id}” has two steps of one id.", "Rename one of them.");
                Need(script, script.Steps.Count > 0, $"“{script.Id}” has no steps.", "Add them.");
                foreach (var step in script.Steps)
                {
                    LintStep(script, step, ids);
                }

                if (StripPlanner.Circle(script.Steps) is { } circle)
                {
                    Need(script, false, StripPlanner.CircleProblem(circle).Text, "Take one of these precedences away.");
                }
            }
        }

        private static List<StripStep> Extended(StripScript other, StripScript script)
        {
            var own = script.Steps.ToDictionary(s => s.Id, StringComparer.Ordinal);
            var known = other.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
            return
            [
                .. other.Steps.Where(s => own.ContainsKey(s.Id) || !script.Drops.Contains(s.Id)).Select(s => own.GetValueOrDefault(s.Id) ?? s),
                .. script.Steps.Where(s => !known.Contains(s.Id)),
            ];
        }

        private void LintStep(StripScript script, StripStep step, HashSet<string> ids)
        {
            var name = $"{script.Id}/{step.Id}";
            Need(script, step.Id.Length > 0 && step.Name.Length > 0, $"A step of “{script.Id}” has no id or no name.", "Give it both.");
            // What a common step waits for may be left out of a script; a step of its own must name what is there.
            var unknown = step.After.Keys.FirstOrDefault(k => !ids.Contains(k));
            Need(
                script,
                unknown is null || script.Uses.Contains(step.Id) || script.Drops.Contains(unknown),
                $"“{name}” must follow “{unknown}”, which is no step.",
                "Correct the id."
            );
            Kinds(script, [.. step.Exposes, .. step.Releases, .. step.ReadFirst]);
            Need(script, step is { Minutes: >= 0, MinutesEach: >= 0 }, $"“{name}” takes less than no time.", "Give minutes from 0.");
            foreach (var set in step.Fasteners)
            {
                Need(script, set.Id.Length > 0 && set.Name.Length > 0, $"“{name}” has a set of fasteners without id or name.", "Give it both.");
                Need(script, set.Count > 0, $"“{name}” counts {set.Count} of “{set.Name}”.", "Give a count above 0.");
                Need(script, set.Lengths.TrueForAll(l => l > 0), $"“{name}” has a length of 0 or less.", "Give lengths in mm.");
                Need(
                    script,
                    set.Holes.TrueForAll(h => h.Count == 2 && h.TrueForAll(v => v is >= 0 and <= 100)),
                    $"“{name}” places a hole outside its joint.",
                    "Give x and y from 0 to 100."
                );
            }

            Need(
                script,
                step.Fasteners.Select(s => s.Id).Distinct(StringComparer.Ordinal).Count() == step.Fasteners.Count,
                $"“{name}” has two sets of one id.",
                "Rename one of them."
            );
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

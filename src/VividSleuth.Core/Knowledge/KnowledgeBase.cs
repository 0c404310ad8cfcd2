using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NodeDeserializers;

namespace VividSleuth.Core.Knowledge;

/// <summary>
/// What the trade knows, read from the YAML files in knowledge/. It refuses to load when an entry is unreadable or points to
/// nothing, and names the file and the line.
/// </summary>
public sealed partial class KnowledgeBase
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

    private readonly Reader _reader;

    private KnowledgeBase(Reader reader, IReadOnlyList<StoryEntry> stories)
    {
        _reader = reader;
        Signs = reader.Signs;
        Stories = stories;
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
        return reader.Problems.Count > 0 ? throw new ProblemException(reader.Problems) : new KnowledgeBase(reader, reader.Stories);
    }

    /// <summary>Reads the files of a folder laid out as knowledge/.</summary>
    /// <param name="folder">Its path.</param>
    /// <param name="paths">Paths of its files, in any order.</param>
    /// <param name="read">Gives the text of a path.</param>
    /// <exception cref="ProblemException">As the other.</exception>
    public static KnowledgeBase Load(string folder, IEnumerable<string> paths, Func<string, string> read) =>
        Load(paths.Order(StringComparer.Ordinal).Select(p => (Root + Path.GetRelativePath(folder, p).Replace('\\', '/'), read(p))));

    /// <summary>
    /// This knowledge with a shop's own stories: one that has the id of another takes its place, the others are added. Each is marked as the
    /// shop's.
    /// </summary>
    /// <exception cref="ProblemException">A story does not hold; each problem names the story and the field.</exception>
    public KnowledgeBase With(IReadOnlyList<StoryEntry> own)
    {
        var faults = own.SelectMany(s => CheckOwn(s).Select(p => p with { Field = $"{s.Id}.{p.Field}" })).ToArray();
        if (faults.Length > 0)
        {
            throw new ProblemException(faults);
        }

        foreach (var story in own)
        {
            story.Shop = true;
        }

        var byId = own.ToDictionary(s => s.Id, StringComparer.Ordinal);
        return new KnowledgeBase(
            _reader,
            [.. _reader.Stories.Select(s => byId.GetValueOrDefault(s.Id) ?? s), .. own.Where(s => _reader.Stories.TrueForAll(o => o.Id != s.Id))]
        );
    }

    /// <summary>The story of an id as it was read from the files, whatever the shop made of it.</summary>
    public StoryEntry? Shipping(string id) => _reader.Stories.Find(s => s.Id == id);

    /// <summary>What is wrong with a story that a shop wrote; the field is its path in the story.</summary>
    public IEnumerable<Problem> CheckOwn(StoryEntry story)
    {
        foreach (
            var (field, text, said) in new[]
            {
                ("name", story.Name, "a name"),
                ("family", story.Family, "a family"),
                ("prove", story.Prove, "how to prove it"),
                ("prevent", story.Prevent, "what to change"),
                ("provenance", story.Provenance, "where it comes from"),
            }
        )
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                yield return new Problem(field, $"The story lacks {said}.", "Write it; a story without it cannot be reviewed.");
            }
        }

        if (!IdPattern().IsMatch(story.Id))
        {
            yield return new Problem("id", $"“{story.Id}” is no id.", "Use small letters, digits and hyphens, up to 60.");
        }

        foreach (var fault in StoryRules.Check(story, Sign, r => Risks.Any(x => x.Id == r)))
        {
            yield return new Problem(fault.Field, fault.Text, fault.Remedy);
        }

        if (story.ConfusedWith.Find(c => Story(c) is null && c != story.Id) is { } nobody)
        {
            yield return new Problem("confusedWith", $"There is no story “{nobody}”.", "Name stories by their id.");
        }
    }

    [System.Text.RegularExpressions.GeneratedRegex("^[a-z0-9][a-z0-9-]{0,59}$", System.Text.RegularExpressions.RegexOptions.None, 1000)]
    private static partial System.Text.RegularExpressions.Regex IdPattern();

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
        private readonly IDeserializer _yaml;

        private readonly Dictionary<Entry, string> _fileOf = [];

        private readonly Dictionary<object, long> _lineOf = new(ReferenceEqualityComparer.Instance);

        public Reader() =>
            _yaml = StoryFile
                .Reading()
                .WithNodeDeserializer(inner => new LineKeeper(inner, _lineOf), s => s.InsteadOf<ObjectNodeDeserializer>())
                .Build();

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
                Need(sign, sign.With.Length > 0, $"“{sign.Id}” does not say with what one looks for it.", "Name the tool: lens, lamp, feelers …");
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

            var byId = Signs.GroupBy(s => s.Id).ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
            foreach (var story in Stories)
            {
                foreach (var fault in StoryRules.Check(story, byId.GetValueOrDefault, risks.Contains))
                {
                    Problems.Add(new Problem(Where(story, fault.At), fault.Text, fault.Remedy));
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
                Problems.Add(new Problem(Where(entry, entry), text, remedy));
            }
        }

        /// <summary>File and line of something in an entry.</summary>
        private string Where(Entry entry, object at) => _lineOf.TryGetValue(at, out var line) ? $"{_fileOf[entry]}:{line}" : _fileOf[entry];
    }

    /// <summary>Reads as the one inside does, and keeps the line on which each object began.</summary>
    private sealed class LineKeeper(INodeDeserializer inner, Dictionary<object, long> lineOf) : INodeDeserializer
    {
        public bool Deserialize(
            IParser reader,
            Type expectedType,
            Func<IParser, Type, object?> nestedObjectDeserializer,
            out object? value,
            ObjectDeserializer rootDeserializer
        )
        {
            var line = reader.Current?.Start.Line ?? 0;
            var done = inner.Deserialize(reader, expectedType, nestedObjectDeserializer, out value, rootDeserializer);
            if (done && value is not null)
            {
                lineOf[value] = line;
            }

            return done;
        }
    }
}

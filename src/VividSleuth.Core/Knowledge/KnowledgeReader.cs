using System.Collections.ObjectModel;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NodeDeserializers;

namespace VividSleuth.Core.Knowledge;

/// <summary>Reads the files of knowledge/ one by one, puts scripts together, and keeps the line on which each entry began.</summary>
internal sealed class KnowledgeReader
{
    /// <summary>Id of the script whose steps others take over.</summary>
    public const string Common = "common";

    private readonly IDeserializer _yaml;

    private readonly Dictionary<Known, string> _fileOf = [];

    private readonly Dictionary<object, long> _lineOf = new(ReferenceEqualityComparer.Instance);

    /// <param name="told">Tells it in another language; null reads it as it stands.</param>
    public KnowledgeReader(KnowledgeWords? told = null)
    {
        _yaml = Reading().WithNodeDeserializer(inner => new LineKeeper(inner, _lineOf, told), s => s.InsteadOf<ObjectNodeDeserializer>()).Build();
        WordsOfKeys = told?.OfKeys ?? ReadOnlyDictionary<string, string>.Empty;
    }

    /// <summary>What the words are called by which records know a thing, of all that was read; none where it is read as it stands.</summary>
    public IReadOnlyDictionary<string, string> WordsOfKeys { get; }

    /// <summary>How the files of knowledge/ are laid out.</summary>
    public static DeserializerBuilder Reading() =>
        CauseFile
            .Reading()
            .WithTypeMapping<IReadOnlyList<int>, List<int>>()
            .WithTypeMapping<IReadOnlyList<double>, List<double>>()
            .WithTypeMapping<IReadOnlyList<BearingType>, List<BearingType>>();

    public List<KnownSign> Signs { get; } = [];

    public List<KnownCause> Causes { get; } = [];

    public List<KnownCharacteristic> Characteristics { get; } = [];

    public List<KnownRule> Rules { get; } = [];

    public List<KnownRisk> Risks { get; } = [];

    public List<StripScript> Scripts { get; } = [];

    public List<KnownShot> Shots { get; } = [];

    public List<KnownFamily> Families { get; } = [];

    public List<KnownWayOut> WaysOut { get; } = [];

    public List<KnownDebris> DebrisSources { get; } = [];

    public List<KnownSizes> Sizes { get; } = [];

    public List<KnownCourse> Courses { get; } = [];

    public List<KnownGroup> Groups { get; } = [];

    public List<KnownExamination> Examinations { get; } = [];

    public List<KnownVerdict> Verdicts { get; } = [];

    public List<KnownReuse> ReuseRisks { get; } = [];

    public List<KnownGate> Gates { get; } = [];

    public List<KnownTime> Times { get; } = [];

    public List<KnownBefore> Befores { get; } = [];

    public List<AssemblyStep> Assembly { get; } = [];

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
                case "causes":
                    Take(name, Causes, text);
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
                case "engines":
                    Take(name, Families, text);
                    break;
                case "ways":
                    Take(name, WaysOut, text);
                    break;
                case "shots":
                    Take(name, Shots, text);
                    break;
                case "debris":
                    Take(name, DebrisSources, text);
                    break;
                case "sizes":
                    Take(name, Sizes, text);
                    break;
                case "courses":
                    Take(name, Courses, text);
                    break;
                case "groups":
                    Take(name, Groups, text);
                    break;
                case "examinations":
                    Take(name, Examinations, text);
                    break;
                case "reuse":
                    Take(name, ReuseRisks, text);
                    break;
                case "gates":
                    Take(name, Gates, text);
                    break;
                case "build" when name.EndsWith("/before.yaml", StringComparison.Ordinal):
                    Take(name, Befores, text);
                    break;
                case "build":
                    Take(name, Assembly, text);
                    break;
                case "times":
                    Take(name, Times, text);
                    break;
                case "verdicts":
                    Take(name, Verdicts, text);
                    break;
                case "strip":
                    Take(name, Scripts, text);
                    break;
                default:
                    Problems.Add(Problem.Of(name, "knowledge.no-knowledge-lives-here"));
                    break;
            }
        }
        catch (YamlException e)
        {
            var why = e.InnerException?.Message ?? e.Message;
            Problems.Add(Problem.Of($"{name}:{e.Start.Line}", "knowledge.line-cannot-read", ("line", e.Start.Line), ("why", why)));
        }
    }

    /// <summary>Checks what holds for every entry, and puts the scripts together from common steps and those they extend.</summary>
    public void Finish()
    {
        foreach (var (entry, file) in _fileOf)
        {
            Need(entry, entry.Id.Length > 0, Fact.Of("knowledge.entry-without-id"), Fact.Of("knowledge.give-one"));
            Need(entry, entry.Name.Length > 0, Fact.Of("knowledge.entry-without-name", ("entry", entry.Id)), Fact.Of("knowledge.give-one"));
            Need(
                entry,
                entry.Provenance.Length > 0,
                Fact.Of("knowledge.does-not-say-where-comes", ("entry", entry.Id)),
                Fact.Of("knowledge.add-provenance")
            );
        }

        foreach (var twice in _fileOf.Keys.GroupBy(e => (e.GetType(), e.Id)).Where(g => g.Count() > 1))
        {
            Need(twice.Last(), false, Fact.Of("knowledge.id-stands-twice", ("key", twice.Key.Id)), Fact.Of("knowledge.rename-one-them"));
        }

        foreach (var family in Families)
        {
            foreach (var problem in family.Layout.Check())
            {
                Need(family, false, problem.Text, problem.Remedy);
            }
        }

        foreach (var sign in Signs.Where(s => s.Chapter.Length == 0))
        {
            sign.Chapter = Path.GetFileNameWithoutExtension(_fileOf[sign]);
        }

        ComposeScripts();
    }

    public void Add(KnowledgeFault fault) => Problems.Add(new Problem(Where(fault.Item, fault.At ?? fault.Item), fault.Text, fault.Remedy));

    private void ComposeScripts()
    {
        var common = Scripts.Find(s => s.Id == Common)?.Steps.ToDictionary(s => s.Id, StringComparer.Ordinal) ?? [];
        var ways = Scripts.Find(s => s.Id == Common)?.Variants.ToDictionary(v => v.Id, StringComparer.Ordinal) ?? [];
        foreach (var script in Scripts.Where(s => s.Id != Common))
        {
            var missing = script.Uses.Find(u => !common.ContainsKey(u));
            Need(
                script,
                missing is null,
                Fact.Of("knowledge.uses-common-step", ("script", script.Id), ("missing", missing)),
                Fact.Of("knowledge.correct-id")
            );
            script.Steps = [.. script.Uses.Where(common.ContainsKey).Select(u => common[u]), .. script.Steps];
            var noWay = script.Ways.Find(w => !ways.ContainsKey(w));
            Need(
                script,
                noWay is null,
                Fact.Of("knowledge.takes-common-way", ("script", script.Id), ("missing", noWay)),
                Fact.Of("knowledge.correct-id")
            );
            script.Variants = [.. script.Variants, .. script.Ways.Where(ways.ContainsKey).Select(w => Fitted(ways[w], script))];
        }

        foreach (var script in Scripts.Where(s => s.Extends.Length > 0))
        {
            var other = Scripts.TakeWhile(s => s != script).FirstOrDefault(s => s.Id == script.Extends);
            Need(
                script,
                other is not null,
                Fact.Of("knowledge.extends-does-not-come-before", ("script", script.Id), ("extends", script.Extends)),
                Fact.Of("knowledge.correct-id-order")
            );
            script.Steps = other is null ? script.Steps : Extended(other, script);
            var steps = script.Steps.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
            script.Variants =
            [
                .. (other?.Variants ?? []).Where(v =>
                    script.Variants.TrueForAll(o => o.Id != v.Id)
                    && (v.Applies.Valves is null || v.Applies.Valves == script.Applies.Valves)
                    && v.Drops.Concat(v.Until).Concat(v.Alters.Keys).All(id => steps.Contains(id) || v.Steps.Exists(s => s.Id == id))
                ),
                .. script.Variants,
            ];
            script.Uses = [.. script.Uses, .. other?.Uses ?? []];
        }
    }

    /// <summary>A common way without what it says of steps that the script has not.</summary>
    private static StripVariant Fitted(StripVariant way, StripScript script)
    {
        var known = script.Steps.Concat(way.Steps).Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var fitted = way.Copy();
        fitted.Steps =
        [
            .. way.Steps.Select(s =>
            {
                var step = s.Copy();
                step.After = s.After.Where(a => known.Contains(a.Key)).ToDictionary();
                step.Usually = s.Usually.Where(a => known.Contains(a.Key)).ToDictionary();
                return step;
            }),
        ];
        fitted.Alters = way.Alters.Where(a => script.Steps.Exists(s => s.Id == a.Key)).ToDictionary();
        return fitted;
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

    private void Take<T>(string name, List<T> list, string text)
        where T : Known
    {
        foreach (var entry in _yaml.Deserialize<List<T>>(text) ?? [])
        {
            list.Add(entry);
            _fileOf[entry] = name;
        }
    }

    private void Need(Known entry, bool holds, Fact text, Fact remedy)
    {
        if (!holds)
        {
            Problems.Add(new Problem(Where(entry, entry), text, remedy));
        }
    }

    /// <summary>File and line of something in an entry.</summary>
    private string Where(Known entry, object at) => _lineOf.TryGetValue(at, out var line) ? $"{_fileOf[entry]}:{line}" : _fileOf[entry];

    /// <summary>
    /// Reads as the one inside does, keeps the line on which each object began, and tells it in another language. What a case keeps of the knowledge it keeps by id, so that
    /// words may be in any language; grades of sizes are stamps and stay.
    /// </summary>
    private sealed class LineKeeper(INodeDeserializer inner, Dictionary<object, long> lineOf, KnowledgeWords? told) : INodeDeserializer
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
                if (value is not KnownSizes)
                {
                    told?.Tell(value);
                }
            }

            return done;
        }
    }
}

using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Knowledge;

/// <summary>
/// What the trade knows, read from the YAML files in knowledge/. It refuses to load when an entry is unreadable or points to
/// nothing, and names the file and the line.
/// </summary>
public sealed class KnowledgeBase
{
    private const string Root = "knowledge/";
    private static readonly Lazy<KnowledgeBase> Shipped = new(() => Load(ShippedFiles()));

    private readonly Dictionary<string, KnownSign> _signs;
    private readonly Dictionary<string, KnownCause> _causes;
    private readonly Dictionary<string, KnownCharacteristic> _characteristics;
    private readonly Dictionary<string, StripScript> _scripts;
    private readonly Dictionary<string, KnownCourse> _courses;
    private readonly Dictionary<string, KnownExamination> _examinations;
    private readonly Dictionary<string, KnownGroup> _groupOf;
    private readonly Dictionary<(TimeOf, string), KnownTime> _times;

    private readonly ILookup<string, KnownShot> _shotsOf;
    private readonly ILookup<string, KnownSign> _signsOn;

    private readonly IReadOnlyList<(string Name, string Text)> _files;

    private readonly KnowledgeReader _reader;

    private KnowledgeBase(
        IReadOnlyList<(string Name, string Text)> files,
        KnowledgeReader reader,
        IReadOnlyList<KnownCause> causes,
        IReadOnlyList<StripScript> scripts
    )
    {
        _files = files;
        _reader = reader;
        Signs = reader.Signs;
        Causes = causes;
        Characteristics = reader.Characteristics;
        RulesOfThumb = reader.Rules;
        Risks = reader.Risks;
        Shots = reader.Shots;
        Families = reader.Families;
        WaysOut = reader.WaysOut;
        DebrisSources = reader.DebrisSources;
        Sizes = reader.Sizes;
        Courses = reader.Courses;
        Groups = reader.Groups;
        Examinations = reader.Examinations;
        Verdicts = reader.Verdicts;
        ReuseRisks = reader.ReuseRisks;
        Gates = reader.Gates;
        Times = reader.Times;
        Befores = reader.Befores;
        Assembly = reader.Assembly;
        WordsOfKeys = reader.WordsOfKeys;
        _times = Times.GroupBy(t => (t.Of, t.Which)).ToDictionary(g => g.Key, g => g.First());
        _courses = ById(Courses);
        _examinations = ById(Examinations);
        _groupOf = Groups
            .SelectMany(g => g.Kinds.Select(k => (k, g)))
            .GroupBy(x => x.k, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.First().g, StringComparer.Ordinal);
        _shotsOf = Shots.SelectMany(s => s.On.Select(k => (k, s))).ToLookup(x => x.k, x => x.s, StringComparer.Ordinal);
        StripScripts = scripts;
        _signsOn = Signs.Where(s => !s.Measured).SelectMany(s => s.On.Select(k => (k, s))).ToLookup(x => x.k, x => x.s, StringComparer.Ordinal);
        _signs = ById(Signs);
        _causes = ById(Causes);
        _characteristics = ById(Characteristics);
        _scripts = ById(StripScripts);
    }

    /// <summary>The knowledge that ships with the program.</summary>
    public static KnowledgeBase BuiltIn => Shipped.Value;

    public IReadOnlyList<KnownSign> Signs { get; }

    public IReadOnlyList<KnownCause> Causes { get; }

    public IReadOnlyList<KnownCharacteristic> Characteristics { get; }

    public IReadOnlyList<KnownRule> RulesOfThumb { get; }

    public IReadOnlyList<KnownRisk> Risks { get; }

    public IReadOnlyList<KnownShot> Shots { get; }

    /// <summary>Families of engines that a new case may start from.</summary>
    public IReadOnlyList<KnownFamily> Families { get; }

    /// <summary>By which way each kind of part leaves an engine.</summary>
    public IReadOnlyList<KnownWayOut> WaysOut { get; }

    public IReadOnlyList<KnownDebris> DebrisSources { get; }

    /// <summary>Steps in which parts are usually to be had.</summary>
    public IReadOnlyList<KnownSizes> Sizes { get; }

    /// <summary>What can be done with a part.</summary>
    public IReadOnlyList<KnownCourse> Courses { get; }

    /// <summary>What is decided together, in the order in which it is shown.</summary>
    public IReadOnlyList<KnownGroup> Groups { get; }

    public IReadOnlyList<KnownExamination> Examinations { get; }

    /// <summary>Rules for what becomes of a part.</summary>
    public IReadOnlyList<KnownVerdict> Verdicts { get; }

    /// <summary>What may go wrong with a course, and how often an engine comes back for it.</summary>
    public IReadOnlyList<KnownReuse> ReuseRisks { get; }

    /// <summary>What must be known before a line of the order is sent.</summary>
    public IReadOnlyList<KnownGate> Gates { get; }

    /// <summary>How long things take where nobody of the shop has clocked or said it.</summary>
    public IReadOnlyList<KnownTime> Times { get; }

    /// <summary>What must be through before parts go back, beside the strip in reverse.</summary>
    public IReadOnlyList<KnownBefore> Befores { get; }

    /// <summary>What assembly adds to the strip in reverse.</summary>
    public IReadOnlyList<AssemblyStep> Assembly { get; }

    /// <summary>The time of one of a kind, or that of the kind where it has none of its own.</summary>
    public KnownTime Time(TimeOf of, string which = "") => _times.GetValueOrDefault((of, which)) ?? _times[(of, "")];

    /// <summary>The strip scripts, each with the common steps it takes over.</summary>
    public IReadOnlyList<StripScript> StripScripts { get; }

    /// <summary>The shot list of a kind of part.</summary>
    public IEnumerable<KnownShot> ShotsOf(string kind) => _shotsOf[kind];

    /// <summary>Signs that can be looked for on a kind of part.</summary>
    public IEnumerable<KnownSign> SignsOn(string kind) => _signsOn[kind];

    public KnownSign? Sign(string id) => _signs.GetValueOrDefault(id);

    public KnownCause? Cause(string id) => _causes.GetValueOrDefault(id);

    public KnownCourse? Course(string id) => _courses.GetValueOrDefault(id);

    public KnownExamination? Examination(string id) => _examinations.GetValueOrDefault(id);

    /// <summary>The group in which a kind of part is decided; null of what nobody decides on.</summary>
    public KnownGroup? GroupOf(string kind) => _groupOf.GetValueOrDefault(kind);

    public StripScript? Script(string id) => _scripts.GetValueOrDefault(id);

    /// <summary>What can be measured under an id: of the knowledge, or a dimension of somebody’s own (<see cref="OwnDimension"/>).</summary>
    public KnownCharacteristic? Characteristic(string id) => _characteristics.GetValueOrDefault(id) ?? OwnDimension.Find(id);

    /// <param name="files">Name and text of each file; the folder in the name says what it holds.</param>
    /// <param name="lints">What each room asks of its own entries; the entries themselves are always checked.</param>
    /// <exception cref="ProblemException">A file cannot be read or does not lint; each problem names the file.</exception>
    public static KnowledgeBase Load(IEnumerable<(string Name, string Text)> files, params IReadOnlyList<KnowledgeLint> lints)
    {
        var read = Read([.. files], told: null);
        var reader = read._reader;
        foreach (var fault in lints.SelectMany(lint => lint(read)))
        {
            reader.Add(fault);
        }

        return reader.Problems.Count > 0 ? throw new ProblemException(reader.Problems) : read;
    }

    private static KnowledgeBase Read(IReadOnlyList<(string Name, string Text)> files, KnowledgeWords? told)
    {
        var reader = new KnowledgeReader(told);
        foreach (var (name, text) in files)
        {
            reader.Read(name, text);
        }

        reader.Finish();
        return new KnowledgeBase(files, reader, reader.Causes, ShippedScripts(reader));
    }

    /// <summary>The same files told in another language, by which its readers read the same cases. What a shop added stays behind.</summary>
    public KnowledgeBase In(KnowledgeWords told) => Read(_files, told);

    /// <summary>What words are called here by which records know a thing: ticks, tools, levels of measuring. What a shop wrote itself has none.</summary>
    public IReadOnlyDictionary<string, string> WordsOfKeys { get; }

    /// <summary>What such a word is called here.</summary>
    public string Called(string key) => WordsOfKeys.GetValueOrDefault(key, key);

    /// <summary>Files of a folder laid out as knowledge/, named as those that ship.</summary>
    /// <param name="folder">Its path.</param>
    /// <param name="paths">Paths of its files, in any order.</param>
    /// <param name="read">Gives the text of a path.</param>
    public static IEnumerable<(string Name, string Text)> FilesOf(string folder, IEnumerable<string> paths, Func<string, string> read) =>
        paths.Order(StringComparer.Ordinal).Select(p => (Root + Path.GetRelativePath(folder, p).Replace('\\', '/'), read(p)));

    /// <summary>
    /// This knowledge with a shop's own causes and strip scripts: one that has the id of another takes its place, the others are added. Each is marked
    /// as the shop's.
    /// </summary>
    public KnowledgeBase With(IReadOnlyList<KnownCause> own, IReadOnlyList<StripScript>? scripts = null)
    {
        foreach (var cause in own)
        {
            cause.Shop = true;
        }

        foreach (var script in scripts ?? [])
        {
            script.Shop = true;
        }

        return new KnowledgeBase(_files, _reader, Laid(_reader.Causes, own), Laid(ShippedScripts(_reader), scripts ?? []));
    }

    private static List<T> Laid<T>(IReadOnlyList<T> under, IReadOnlyList<T> over)
        where T : Known
    {
        var byId = over.ToDictionary(s => s.Id, StringComparer.Ordinal);
        return [.. under.Select(s => byId.GetValueOrDefault(s.Id) ?? s), .. over.Where(s => under.All(o => o.Id != s.Id))];
    }

    private static List<StripScript> ShippedScripts(KnowledgeReader reader) => [.. reader.Scripts.Where(s => s.Id != KnowledgeReader.Common)];

    /// <summary>The script of an id as it was read from the files, whatever the shop made of it.</summary>
    public StripScript? ShippingScript(string id) => ShippedScripts(_reader).Find(s => s.Id == id);

    /// <summary>The cause of an id as it was read from the files, whatever the shop made of it.</summary>
    public KnownCause? Shipping(string id) => _reader.Causes.Find(s => s.Id == id);

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

    // Of two entries of one id the first counts; that there are two is told when they are read.
    private static Dictionary<string, T> ById<T>(IEnumerable<T> entries)
        where T : Known => entries.GroupBy(e => e.Id, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
}

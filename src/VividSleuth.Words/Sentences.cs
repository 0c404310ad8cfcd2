using System.Collections;
using System.Globalization;
using System.Text;
using VividSleuth.Core;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using YamlDotNet.Serialization;

namespace VividSleuth.Words;

/// <summary>
/// Turns facts into sentences. The sentences stand in en/, a file for each room; another language is another folder beside it, with the same codes and
/// the same holes; names/ tells what the names and the cautions of the knowledge are in it, and told/ what else it says.
/// </summary>
public sealed class Sentences
{
    private readonly Dictionary<string, Template> _templates;
    private readonly Dictionary<string, string> _names;
    private readonly Dictionary<string, string> _told;
    private readonly Locale _locale;
    private readonly LengthUnit _lengths;
    private readonly bool _ofEnglish;

    private Sentences(
        Dictionary<string, Template> templates,
        Dictionary<string, string> names,
        Dictionary<string, string> told,
        Locale locale,
        LengthUnit lengths,
        bool ofEnglish = false
    )
    {
        _templates = templates;
        _names = names;
        _told = told;
        _locale = locale;
        _lengths = lengths;
        _ofEnglish = ofEnglish;
    }

    /// <summary>English, with lengths in millimetres.</summary>
    public static Sentences English { get; } = new(Read("en/"), [], [], Locale.English, LengthUnit.Mm);

    /// <summary>English, with lengths in inches.</summary>
    public static Sentences EnglishInInches { get; } = English.In(LengthUnit.Inch);

    /// <summary>German, with lengths in millimetres.</summary>
    public static Sentences German => InGerman.Value;

    // Read when somebody first asks in it: who never does waits for nothing.
    private static readonly Lazy<Sentences> InGerman = new(() => new(Read("de/"), Texts("names/de"), Texts("told/de"), Locale.German, LengthUnit.Mm));

    /// <summary>Those of a language, with lengths in millimetres.</summary>
    public static Sentences Of(Language language) => language == Language.German ? German : English;

    public Language Language => _locale.Language;

    /// <summary>Tag of the language after BCP 47.</summary>
    public string Tag => _locale.Tag;

    public LengthUnit Lengths => _lengths;

    /// <summary>Names of the knowledge that are told otherwise in this language, by what they are in English.</summary>
    public IReadOnlyDictionary<string, string> Names => _names;

    /// <summary>What else of the knowledge is told otherwise, by what it is in English.</summary>
    public IReadOnlyDictionary<string, string> Told => _told;

    /// <summary>The words of the knowledge in this language; as they stand where there are none.</summary>
    public KnowledgeWords Knowledge => new(t => _names.GetValueOrDefault(t, t), t => _told.GetValueOrDefault(t, _names.GetValueOrDefault(t, t)));

    /// <summary>The same with lengths in another unit.</summary>
    public Sentences In(LengthUnit lengths) => lengths == _lengths ? this : new Sentences(_templates, _names, _told, _locale, lengths, _ofEnglish);

    /// <summary>The same for facts of a knowledge that was read in English: its names in them are told as they are called here.</summary>
    public Sentences OfEnglish => new(_templates, _names, _told, _locale, _lengths, ofEnglish: true);

    /// <summary>Codes for which there is a sentence, with the names of what fills it in.</summary>
    public IEnumerable<(string Code, IReadOnlyCollection<string> Holes)> All =>
        _templates.Select(t => (t.Key, (IReadOnlyCollection<string>)[.. t.Value.Holes.Distinct()]));

    /// <returns>Empty for null.</returns>
    /// <exception cref="KeyNotFoundException">There is no sentence of the code.</exception>
    public string Say(Fact? fact) => fact is null ? "" : Template(fact.Code).Fill(new Filling(fact, this));

    /// <summary>A figure as it is told here.</summary>
    public string Say(Amount amount, bool unit = true) => Figures.Say(amount, _lengths, _locale, unit);

    /// <summary>The word of an enumeration's value.</summary>
    public string Say(Enum value) => Template($"word.{Kebab(value.GetType().Name)}.{Kebab(value.ToString())}").Fill(new Filling(Fact.Of(""), this));

    private Template Template(string code) =>
        _templates.GetValueOrDefault(code)
        ?? throw new KeyNotFoundException($"No sentence says “{code}”; it belongs in the folders of VividSleuth.Words.");

    private string Any(object? value, string how) =>
        value switch
        {
            null => "",
            string text => _ofEnglish ? _names.GetValueOrDefault(text, text) : text,
            int number when how == "grouped" => number.ToString("#,0", _locale.Culture),
            int or long => Convert.ToString(value, CultureInfo.InvariantCulture)!,
            double or decimal => Convert.ToDouble(value, CultureInfo.InvariantCulture).ToString("0.######", _locale.Culture),
            Amount amount => Say(amount, unit: how != "unitless"),
            Number number => Figures.Say(number, _locale),
            Percent percent => Figures.Say(percent, _locale),
            DateOnly day => day.ToString(
                how switch
                {
                    "short" => _locale.ShortDay,
                    "long" => _locale.LongDay,
                    _ => _locale.Day,
                },
                _locale.Culture
            ),
            Fact fact => Say(fact),
            Guid id => id.ToString(),
            Enum of => Say(of),
            IEnumerable list when how == "sentence" => string.Join(
                "; ",
                list.Cast<object?>().Select(v => Any(v, "").TrimEnd('.')).Where(t => t.Length > 0)
            ) + ".",
            IEnumerable list => string.Join(
                how is "start" or "unitless" || how.Length == 0 ? ", " : how,
                list.Cast<object?>().Select(v => Any(v, "")).Where(t => t.Length > 0)
            ),
            _ => throw new ArgumentException($"A {value.GetType().Name} fills no sentence.", nameof(value)),
        };

    private static string Kebab(string name)
    {
        var kebab = new StringBuilder();
        foreach (var c in name)
        {
            kebab.Append(char.IsUpper(c) && kebab.Length > 0 ? "-" : "").Append(char.ToLowerInvariant(c));
        }

        return kebab.ToString();
    }

    private static Dictionary<string, Template> Read(string folder) =>
        Texts(folder).ToDictionary(t => t.Key, t => Words.Template.Parse(t.Value), StringComparer.Ordinal);

    private static Dictionary<string, string> Texts(string folder)
    {
        var reader = new DeserializerBuilder().WithDuplicateKeyChecking().Build();
        var assembly = typeof(Sentences).Assembly;
        var all = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var name in assembly.GetManifestResourceNames().Where(n => n.StartsWith(folder, StringComparison.Ordinal)))
        {
            using var text = new StreamReader(assembly.GetManifestResourceStream(name)!);
            foreach (var (code, says) in reader.Deserialize<Dictionary<string, string>>(text) ?? [])
            {
                all.Add(code, says);
            }
        }

        return all;
    }

    /// <summary>Holes that a word of the knowledge fills by which records know a thing: it is told by what it is called here.</summary>
    private static readonly string[] Keys = ["station", "direction", "tick", "tool", "cover"];

    private sealed class Filling(Fact fact, Sentences sentences) : IFiller
    {
        public string Fill(Template.Hole hole)
        {
            if (!fact.With.Any(w => w.Key == hole.Name))
            {
                throw new KeyNotFoundException($"“{fact.Code}” is not told its {hole.Name}.");
            }

            var value = fact[hole.Name];
            if (hole.Many.Length > 0)
            {
                var number = value switch
                {
                    int n => n,
                    Number n => n.Value,
                    _ => throw new ArgumentException($"{fact.Code}: {hole.Name} is no number.", nameof(hole)),
                };
                return (number == 1 ? hole.One : hole.Many).Replace("#", sentences.Any(value, ""), StringComparison.Ordinal);
            }

            var said =
                Keys.Contains(hole.Name, StringComparer.Ordinal) && value is string key
                    ? sentences._names.GetValueOrDefault(key, key)
                    : sentences.Any(value, hole.How);
            return hole.How == "start" && said.Length > 0 ? char.ToUpperInvariant(said[0]) + said[1..] : said;
        }
    }
}

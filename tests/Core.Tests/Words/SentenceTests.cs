using System.Text.RegularExpressions;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Verdict;
using VividSleuth.Words;

namespace VividSleuth.Core.Tests.Words;

public sealed partial class SentenceTests
{
    private static readonly Dictionary<string, IReadOnlyCollection<string>> Known = Sentences.English.All.ToDictionary(s => s.Code, s => s.Holes);

    [Fact]
    public void A_length_is_told_in_the_unit_of_whoever_reads()
    {
        var fact = Fact.Of("gauge.size-at-limit-for-tests", ("size", Amount.Length(71.984)));
        // 71.984 mm / 25.4 = 2.83402 in; a tenth of a thousandth beside a thousandth of a millimetre.
        Figures.Say((Amount)fact["size"]!, LengthUnit.Mm, Locale.English).ShouldBe("71.984 mm");
        Figures.Say((Amount)fact["size"]!, LengthUnit.Inch, Locale.English).ShouldBe("2.8340 in");
        Figures.Say(Amount.Length(0.25, 2), LengthUnit.Inch, Locale.English).ShouldBe("0.010 in");
        Figures.Say(new Amount(12.5, Quantity.Mass, 1), LengthUnit.Inch, Locale.English).ShouldBe("12.5 g");
        Figures.Say(Amount.Length(0.0508), LengthUnit.Inch, Locale.English, unit: false).ShouldBe("0.0020");
        Figures.Say(new Amount(45, Quantity.Angle, 0), LengthUnit.Mm, Locale.English).ShouldBe("45°");
    }

    [Fact]
    public void The_same_fact_says_thousandths_in_an_inch_shop()
    {
        var fact = Fact.Of(
            "gauge.two-ways-differ",
            ("figure", "Clearance"),
            ("place", "R4"),
            ("a", Amount.Length(0.0508)),
            ("fromA", Fact.Text("sizes")),
            ("b", Amount.Length(0.0762)),
            ("fromB", Fact.Text("strip")),
            ("difference", Amount.Length(0.0254)),
            ("uncertainty", Amount.Length(0.0127)),
            ("why", null)
        );
        Sentences.English.Say(fact).ShouldContain("0.051 by sizes, but 0.076 by strip. They differ by 0.025 mm");
        Sentences.EnglishInInches.Say(fact).ShouldContain("0.0020 by sizes, but 0.0030 by strip. They differ by 0.0010 in");
    }

    [Fact]
    public void A_part_of_a_sentence_goes_where_nothing_fills_it()
    {
        Fact.Of("strip.nobody-read", ("place", "R4U"), ("signs", new[] { "Wiped", "Fatigued" }), ("more", null))
            .ShouldBe("Nobody has looked at R4U, and this step destroys Wiped, Fatigued.");
        Fact.Of("strip.nobody-read", ("place", "R4U"), ("signs", new[] { "Wiped" }), ("more", 2)).ShouldEndWith("Wiped and 2 more.");
    }

    [Fact]
    public void One_is_told_otherwise_than_many()
    {
        Fact Dig(int steps) =>
            Fact.Of("strip.dig", ("steps", steps), ("minutes", new Number(30)), ("fasteners", 1), ("turns", Fact.Of("strip.not-turned")));
        Dig(1).ShouldBe("One step, about 30 min, one fastener, not turned over.");
        Dig(4).ShouldStartWith("4 steps, about");
    }

    /// <summary>Every code that the source names has its sentence, and the source gives it all that the sentence asks for.</summary>
    [Fact]
    public void Every_fact_has_its_sentence_and_all_that_fills_it()
    {
        var wrong = new List<string>();
        var calls = 0;
        foreach (var (file, text) in Sources("src"))
        {
            foreach (Match call in Call().Matches(text))
            {
                calls++;
                var code = call.Groups["code"].Value;
                string[] codes = call.Groups["problem"].Success ? [code, $"{code}.do"] : [code];
                var given = Given().Matches(Arguments(text, call.Index)).Select(m => m.Groups["name"].Value).ToHashSet(StringComparer.Ordinal);
                foreach (var one in codes)
                {
                    wrong.AddRange(
                        !Known.TryGetValue(one, out var holes)
                            ? [$"{Path.GetFileName(file)}: no sentence {one}"]
                            : holes.Where(h => !given.Contains(h)).Select(h => $"{Path.GetFileName(file)}: {one} is not told {h}")
                    );
                }
            }
        }

        wrong.ShouldBeEmpty();
        calls.ShouldBeGreaterThan(300);
    }

    [Fact]
    public void Whatever_is_not_there_has_a_name()
    {
        var asked = Sources("src")
            .SelectMany(s => NotThere().Matches(s.Text))
            .Select(m => $"what.{m.Groups["what"].Value}")
            .ToHashSet(StringComparer.Ordinal);
        Known.Keys.Where(c => c.StartsWith("what.", StringComparison.Ordinal)).Order().ShouldBe(asked.Order());
    }

    [Fact]
    public void No_sentence_is_left_that_nobody_says()
    {
        string[] byId =
        [
            "part.",
            "formula.",
            "input.",
            "reckoner.",
            "result.",
            "zone.",
            "word.",
            "choice.",
            "label-page.",
            "candidate.",
            "material.",
            "gauge.field.",
            "what.",
            "dossier.title.",
            "dossier.level.",
            "dossier.fact.",
            "dossier.column.",
            "server.class-column.",
            "server.class-homework.",
            "server.class-study.",
        ];
        var all = string.Concat(Sources("src").Select(s => s.Text));
        Known
            .Keys.Select(c => c.EndsWith(".do", StringComparison.Ordinal) ? c[..^3] : c)
            .Distinct(StringComparer.Ordinal)
            .Where(c => !byId.Any(p => c.StartsWith(p, StringComparison.Ordinal)) && !all.Contains($"\"{c}", StringComparison.Ordinal))
            .ShouldBeEmpty();
    }

    /// <summary>What stands between the brackets of the call that begins here.</summary>
    private static string Arguments(string text, int from)
    {
        var open = text.IndexOf('(', from);
        var depth = 0;
        for (var i = open; i < text.Length; i++)
        {
            depth +=
                text[i] == '(' ? 1
                : text[i] == ')' ? -1
                : 0;
            if (depth == 0)
            {
                return text[open..i];
            }
        }

        return "";
    }

    [Fact]
    public void Every_name_that_is_told_by_its_id_has_a_word()
    {
        var codes = PartKinds
            .All.Select(k => k.Name)
            .Concat(Material.All.Select(m => m.Name))
            .Concat(Formulas.All.Select(f => f.Name))
            .Concat(Formulas.All.SelectMany(f => f.Inputs).Select(i => i.Name))
            .Concat(BenchReckoners.All.SelectMany(r => new[] { r.Name, r.Group, r.Says }))
            .Concat(BenchReckoners.All.SelectMany(r => r.Inputs).Select(i => i.Name))
            .Concat(BenchReckoners.All.SelectMany(r => r.Inputs).SelectMany(i => i.Choices ?? []).Select(c => c.Name))
            .Concat(Core.Index.LabelPage.All.Select(l => l.Name))
            .Concat(Maps().SelectMany(Told));
        codes.Select(Said.Say).ShouldAllOfSomeBe(said => said.Length > 0);
        foreach (
            var kind in new[]
            {
                typeof(Quantity),
                typeof(Core.Knowledge.Attitude),
                typeof(Core.Strip.FastenerState),
                typeof(CrankEnd),
                typeof(Rotation),
                typeof(Bank),
                typeof(Core.Index.Facing),
            }
        )
        {
            Enum.GetValues(kind).Cast<Enum>().Select(Sentences.English.Say).ShouldAllOfSomeBe(said => said.Length > 0);
        }

        static IEnumerable<ZoneMap> Maps() =>
            new[] { Start.InlineSix, Start.VeeEight, Start.TwoStrokeTwin }.SelectMany(l =>
                ZoneMaps.Of(new AddressTable(Engine.From(l with { ExhaustAt = 3 })))
            );

        static IEnumerable<Fact> Told(ZoneMap map) =>
            [
                map.Says,
                .. map.Faces.Select(f => f.Name),
                .. map.Faces.SelectMany(f => f.ColumnWords),
                .. map.Faces.SelectMany(f => f.Rows).Select(r => r.Words),
                .. map.Faces.SelectMany(f => f.Rows).Where(r => r.Edge.Length > 0).Select(r => Fact.Of($"zone.edge.{r.Edge}")),
                .. map.Faces.SelectMany(f => f.Features).Select(f => f.Words),
            ];
    }

    /// <summary>Tags of a page, and what is filled into it.</summary>
    [GeneratedRegex("<[^<>]*>|\\{[^{}]*\\}")]
    private static partial Regex Markup();

    /// <summary>
    /// No English is composed in the core or by the server: no text of two words or more stands in it. Let be what is read and not said: attributes, messages to
    /// programmers, equations and citations, and names that files and records carry.
    /// </summary>
    [Theory]
    [InlineData("src/VividSleuth.Core")]
    [InlineData("src/VividSleuth.Server")]
    public void Nothing_but_the_words_is_said_in_English(string folder)
    {
        var english = new List<string>();
        foreach (var (file, text) in Sources(folder))
        {
            foreach (var literal in Literals(text))
            {
                if (
                    IsEnglish(Markup().Replace(literal.Text, ""))
                    && !IsRead(text, literal.At)
                    && !Carried.Contains(literal.Text)
                    && !Machine().IsMatch(literal.Text)
                )
                {
                    english.Add($"{Path.GetFileName(file)}: {literal.Text}");
                }
            }
        }

        english.ShouldBeEmpty();
    }

    [Fact]
    public void A_text_of_two_words_in_the_core_would_be_found()
    {
        var text = "var words = $\"{place} is worn\"; throw new ArgumentException(\"not for people\"); var id = \"rod-cap\";";
        Literals(text).Where(l => IsEnglish(l.Text) && !IsRead(text, l.At)).Select(l => l.Text).ShouldBe(["{place} is worn"]);
    }

    /// <summary>Names that the knowledge, records and files carry: they are compared, not told.</summary>
    private static readonly string[] Carried =
    [
        "hundredths mm",
        "hundredth mm",
        "as fitted",
        "as found",
        "Vivid Sleuth case file",
        "SAE 2",
        "SAE 5",
        "SAE 8",
        "Tag Mono",
        "Tag Plain",
    ];

    /// <summary>Two words beside each other, of which a hole may be one.</summary>
    private static bool IsEnglish(string text) => TwoWords().IsMatch(Hole().Replace(text, "X")) && Word().IsMatch(Hole().Replace(text, "0"));

    private static bool IsRead(string text, int at)
    {
        var line = text.LastIndexOf('\n', Math.Max(0, at - 1)) + 1;
        var before = text[line..at];
        return Reads().IsMatch(before) || Reads().IsMatch(text[Math.Max(0, at - 60)..at]);
    }

    /// <summary>String literals outside comments, with where they stand; interpolated ones with their holes as written.</summary>
    private static IEnumerable<(string Text, int At)> Literals(string text)
    {
        var bare = Comment().Replace(text, m => new string(' ', m.Length));
        foreach (Match literal in Literal().Matches(bare))
        {
            yield return (literal.Groups["text"].Value, literal.Index);
        }
    }

    private static IEnumerable<(string File, string Text)> Sources(string folder)
    {
        var root = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(root!.FullName, "VividSleuth.slnx")))
        {
            root = root.Parent;
        }

        return Directory
            .EnumerateFiles(Path.Combine(root.FullName, folder), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}", StringComparison.Ordinal))
            .Select(f => (f, File.ReadAllText(f)));
    }

    [GeneratedRegex(
        """(?:Fact\.Of|(?<problem>Problem\.Of)\((?:[^,()"]|"[^"]*"|\([^)]*\))+,|(?<problem>Refuse|Told|Details|Write))\s*\(?\s*"(?<code>[a-z][a-z0-9-]*(?:\.[a-z0-9-]+)+)"(?=[,)])"""
    )]
    private static partial Regex Call();

    [GeneratedRegex("""(?:NotHere(?:Exception)?\(|const string (?:Kind|Entry) = )"(?<what>[^"]+)""")]
    private static partial Regex NotThere();

    [GeneratedRegex("""\(\s*"(?<name>\w+)",""")]
    private static partial Regex Given();

    [GeneratedRegex(@"(?<!['\\])\$?""(?<text>(?:[^""\\\n]|\\.)*)""")]
    private static partial Regex Literal();

    [GeneratedRegex(@"(?m)//.*$")]
    private static partial Regex Comment();

    [GeneratedRegex(@"\{[^{}]*\}")]
    private static partial Regex Hole();

    [GeneratedRegex("[a-z]{2,}")]
    private static partial Regex Word();

    /// <summary>Statements, headers and lines of a protocol; the name in the OpenAPI document; what an operator reads at a start that failed.</summary>
    [GeneratedRegex("^(?:select|update|insert|listen|label|public|private|default-src) ?|^ = |/[a-z]+; |^Vivid Sleuth|^Teardown of one engine")]
    private static partial Regex Machine();

    [GeneratedRegex(@"[A-Za-z’'][,;:.]? +[A-Za-z“(]")]
    private static partial Regex TwoWords();

    [GeneratedRegex(@"(?:Exception\(|\[GeneratedRegex|Regex\(|SuppressMessage|Equation: |Source: |source: |@)\s*\$?$|^\s*\[")]
    private static partial Regex Reads();
}

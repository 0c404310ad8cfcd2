using System.Text.RegularExpressions;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Words;

namespace VividSleuth.Core.Tests.Words;

public sealed partial class LanguageTests
{
    private static readonly Lazy<KnowledgeBase> German = new(() => KnowledgeBase.BuiltIn.In(Sentences.German.Knowledge));

    [Fact]
    public void German_says_all_that_English_says_and_of_the_same()
    {
        var german = Sentences.German.All.ToDictionary(s => s.Code, s => s.Holes);
        var english = Sentences.English.All.ToDictionary(s => s.Code, s => s.Holes);
        german.Keys.Order().ShouldBe(english.Keys.Order());
        english
            .Where(e => !e.Value.Order().SequenceEqual(german[e.Key].Order()))
            .Select(e => $"{e.Key}: {string.Join(' ', e.Value)} / {string.Join(' ', german[e.Key])}")
            .ShouldBeEmpty();
    }

    [Fact]
    public void German_writes_numbers_and_days_as_Germans_do()
    {
        Sentences.German.Say(Amount.Length(71.984)).ShouldBe("71,984 mm");
        Sentences.German.In(LengthUnit.Inch).Say(Amount.Length(71.984)).ShouldBe("2,8340 in");
        Sentences.German.Say(Fact.Of("index.labels-more-than-one-engine", ("count", 12345))).ShouldStartWith("12.345 Etiketten");
        Sentences.German.Say(Fact.Of("gauge.calibration-due", ("day", new DateOnly(2026, 3, 9)))).ShouldContain("9. März 2026");
        Sentences.English.Say(Fact.Of("gauge.calibration-due", ("day", new DateOnly(2026, 3, 9)))).ShouldContain("9 March 2026");
    }

    [Fact]
    public void One_is_told_otherwise_than_many_in_German_too()
    {
        Fact Gone(int count) => Fact.Of("dossier.letter.used-again", ("count", count));
        Sentences.German.Say(Gone(1)).ShouldBe("Ein Teil geht zurück, wie es ist.");
        Sentences.German.Say(Gone(3)).ShouldBe("3 Teile gehen zurück, wie sie sind.");
    }

    /// <summary>Each name and caution of the knowledge has its German one; what else it says may wait for it. Nothing is left whose English nobody says.</summary>
    [Fact]
    public void Every_name_of_the_knowledge_is_told_in_German()
    {
        var names = new HashSet<string>(StringComparer.Ordinal);
        var told = new HashSet<string>(StringComparer.Ordinal);
        KnowledgeBase.BuiltIn.In(new KnowledgeWords(Asked(names), Asked(told)));
        names.Remove("");
        names.Except(Sentences.German.Names.Keys).ShouldBeEmpty();
        Sentences.German.Names.Keys.Except(names).ShouldBeEmpty();
        Sentences.German.Told.Keys.Except(told).ShouldBeEmpty();
        Sentences.German.Names.Values.Concat(Sentences.German.Told.Values).ShouldAllBe(v => v.Length > 0);

        static Func<string, string> Asked(HashSet<string> of) =>
            text =>
            {
                of.Add(text);
                return text;
            };
    }

    [Fact]
    public void A_name_keeps_its_figures()
    {
        static string Digits(string text) => string.Join(' ', Figure().Matches(text.Replace(',', '.')).Select(m => m.Value));
        Sentences.German.Names.Concat(Sentences.German.Told).Where(n => Digits(n.Key) != Digits(n.Value)).ShouldBeEmpty();
    }

    [Fact]
    public void Only_names_are_other_in_another_language()
    {
        var english = KnowledgeBase.BuiltIn;
        German.Value.Signs.Select(s => s.Id).ShouldBe(english.Signs.Select(s => s.Id));
        German.Value.Sign("bore-scratched")!.Name.ShouldBe("Bohrung längs zerkratzt");
        German.Value.Sign("bore-scratched")!.Levels.ShouldBe(["zu sehen, nicht zu fühlen", "fühlbar", "tief"]);
        Cause("joint-blown").Family.ShouldBe("Kopf, Kühlung und anderes");
        Cause("joint-blown").Chain.Count.ShouldBe(english.Cause("joint-blown")!.Chain.Count);
        German.Value.Sign("bore-scratched")!.Looks.ShouldBe("Senkrechte Linien; sehen, ob ein Fingernagel sie fühlt.");
        German.Value.Sizes.Select(s => s.Name).ShouldBe(english.Sizes.Select(s => s.Name));
        CheckedKnowledge.Lints.SelectMany(lint => lint(German.Value)).ShouldBeEmpty();

        static KnownCause Cause(string id) => German.Value.Cause(id)!;
    }

    [Fact]
    public void Words_by_which_records_know_a_thing_stay_and_are_called_otherwise()
    {
        string[] Ticks(KnowledgeBase of) => [.. of.StripScripts.SelectMany(s => s.Steps).SelectMany(s => s.Ticks.Concat(s.Must).Concat(s.Tools))];
        Ticks(German.Value).ShouldBe(Ticks(KnowledgeBase.BuiltIn));
        German.Value.Called("Keepers counted").ShouldBe("Ventilkeile gezählt");
        German.Value.Called("below the rings").ShouldBe("unter den Ringen");
        German.Value.Called("What this shop ticks").ShouldBe("What this shop ticks");
        KnowledgeBase.BuiltIn.Called("Keepers counted").ShouldBe("Keepers counted");
        var held = Fact.Of("strip.not-ticked", ("tick", "Keepers counted"));
        Sentences.German.Say(held).ShouldContain("Ventilkeile gezählt");
        Sentences.English.Say(held).ShouldContain("Keepers counted");
        German.Value.With([], []).Called("Keepers counted").ShouldBe("Ventilkeile gezählt");
    }

    [GeneratedRegex(@"\d+(?:\.\d+)?")]
    private static partial Regex Figure();
}

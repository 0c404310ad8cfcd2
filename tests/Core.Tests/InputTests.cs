using System.Text.Json.Nodes;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Tests;

/// <summary>What no field may hold is refused with the name of the field, in files as in requests.</summary>
public sealed class InputTests
{
    private static Finding Clean() =>
        new()
        {
            Place = "P1",
            Sign = "skirt-scuff-thrust",
            Note = "two lines\nand a tab\t– ø °C 李 😀",
        };

    private static void Refused(object value, string field, string code)
    {
        var problem = InputRules.Check(value).ShouldHaveSingleItem();
        (problem.Field, problem.Text.Code).ShouldBe((field, code));
    }

    /// <summary>
    /// What a request brings is read as it comes, and so read the reader of JSON (10.0) lets null through where a record has a constructor and the property is
    /// none of its parameters, though it refuses the same from one text.
    /// </summary>
    [Fact]
    public async Task A_null_that_the_reader_of_json_lets_through_is_refused()
    {
        using var comes = new MemoryStream(
            """{"code":"X1","name":"a wheel","like":"pan","mates":null,"stratum":"accessories","left":false}"""u8.ToArray()
        );
        var part = await System.Text.Json.JsonSerializer.DeserializeAsync<VividSleuth.Core.Engines.OwnPart>(
            comes,
            CaseFile.Json,
            TestContext.Current.CancellationToken
        );
        Refused(part!, "mates", "input.missing");
    }

    [Fact]
    public void Nothing_where_something_must_be_is_refused_and_where_nothing_may_be_it_is_not()
    {
        var part = new VividSleuth.Core.Engines.OwnPart("X1", "a wheel") { Like = "pan", Mates = null! };
        Refused(Start.InlineSix with { OwnParts = [part] }, "ownParts[0].mates", "input.missing");
        var finding = Clean();
        finding.Note = null!;
        Refused(finding, "note", "input.missing");
        InputRules
            .Check(
                new Debris
                {
                    Place = "PA",
                    Count = null,
                    WithdrawnWhy = null,
                }
            )
            .ShouldBeEmpty();
    }

    [Fact]
    public void What_people_write_passes() => InputRules.Check(Clean()).ShouldBeEmpty();

    [Fact]
    public void Characters_that_no_text_has_are_refused()
    {
        foreach (var text in new[] { "a\0b", "a\u0007b", "half \ud83d only", "\udc00 half", "ends with half \ud83d" })
        {
            var finding = Clean();
            finding.Note = text;
            Refused(finding, "note", "input.no-character");
        }
    }

    [Fact]
    public void Each_field_has_its_length_and_one_more_is_too_long()
    {
        var finding = Clean();
        (finding.Note, finding.Sign) = (new string('x', InputRules.LongestOf("note")), new string('x', InputRules.LongestOf("sign")));
        InputRules.Check(finding).ShouldBeEmpty();
        finding.Note += "x";
        finding.Sign += "x";
        InputRules.Check(finding).Select(p => p.Field).ShouldBe(["sign", "note"], ignoreOrder: true);
    }

    [Fact]
    public void A_gap_a_choice_that_is_none_no_number_and_no_day_are_refused()
    {
        var gap = Clean();
        gap.Zones = ["crown", null!];
        Refused(gap, "zones[1]", "input.nothing-in-a-list");
        var choice = Clean();
        choice.Seen = (Seen)77;
        Refused(choice, "seen", "input.no-such-choice");
        Refused(new PhotoMark { X1 = double.NaN }, "x1", "input.no-number");
        Refused(new PhotoMark { Y2 = double.PositiveInfinity }, "y2", "input.no-number");
        Refused(new Instrument { Name = "Mic", Calibrated = new DateOnly(1, 1, 2) }, "calibrated", "input.no-such-day");
    }

    [Fact]
    public void A_case_file_with_any_of_it_is_refused_and_names_the_field()
    {
        var file = JsonNode.Parse(File.ReadAllText(Path.Combine(Start.Root(), "demo/cases/trailer-four.case.json")))!;
        JsonNode Changed(Action<JsonNode> change)
        {
            var copy = file.DeepClone();
            change(copy);
            return copy;
        }

        string Field(JsonNode node) => Should.Throw<ProblemException>(() => CaseFile.FromJson(node.ToJsonString())).Problems[0].Field;

        CaseFile.FromJson(file.ToJsonString()).Case.Findings.ShouldNotBeEmpty();
        Field(Changed(n => n["case"]!["findings"]![0]!["note"] = "a\0b")).ShouldBe("case.findings[0].note");
        Field(Changed(n => n["case"]!["title"] = new string('x', 1_000_000))).ShouldBe("case.title");
        Field(Changed(n => n["case"]!["findings"]!.AsArray().Insert(0, null))).ShouldBe("case.findings[0]");
        // Numbers for a choice are not even read.
        Should.Throw<ProblemException>(() => CaseFile.FromJson(Changed(n => n["case"]!["findings"]![0]!["seen"] = 1).ToJsonString()));
        // Half a character as an escape, which no text can be made of.
        Should.Throw<ProblemException>(() => CaseFile.FromJson(file.ToJsonString().Replace("\"title\":\"", "\"title\":\"\\ud800")));
    }

    [Fact]
    public void A_derived_id_follows_from_its_text_and_says_which_version_it_is()
    {
        DerivedId.Of("a").ShouldBe(DerivedId.Of("a"));
        DerivedId.Of("a").ShouldNotBe(DerivedId.Of("b"));
        // RFC 9562, 5.8: version 8, variant 10.
        DerivedId.Of("a").ToString()[14].ShouldBe('8');
        "89ab".ShouldContain(DerivedId.Of("a").ToString()[19]);
    }
}

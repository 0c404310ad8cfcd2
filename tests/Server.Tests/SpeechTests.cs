using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using VividSleuth.Core.Casebook;
using VividSleuth.Store;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server.Tests;

/// <summary>Facts leave the server as sentences, in the unit of the person, else of the case, else of the shop.</summary>
public sealed partial class SpeechTests(Shop shop)
{
    private static readonly HashSet<string> Codes = [.. Sentences.English.All.Select(s => s.Code)];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private async Task<(HttpClient Client, string At)> Demo(string name)
    {
        var path = Path.Combine(ApiContractTests.Root(), "demo", "cases", name);
        var file = CaseFile.FromJson(await File.ReadAllTextAsync(path, Cancel)).WithIdsOf(Guid.CreateVersion7());
        using var scope = shop.One.Services.CreateScope();
        await scope.ServiceProvider.GetRequiredService<SleuthDb>().ImportAsync(file, Cancel);
        return (await shop.As(Roles.Mechanic), $"/api/cases/{file.Case.Id}");
    }

    private static async Task<(string Text, string? Tag, HttpStatusCode Status)> Ask(
        HttpClient client,
        string url,
        string? lengths = null,
        string? known = null
    )
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, url);
        if (lengths is not null)
        {
            request.Headers.Add(Speech.Header, lengths);
        }

        if (known is not null)
        {
            request.Headers.TryAddWithoutValidation("If-None-Match", known);
        }

        var answer = await client.SendAsync(request, Cancel);
        return (await answer.Content.ReadAsStringAsync(Cancel), answer.Headers.ETag?.ToString(), answer.StatusCode);
    }

    private static IEnumerable<string> Texts(JsonNode? node) =>
        node switch
        {
            JsonObject o => o.SelectMany(p => Texts(p.Value)),
            JsonArray a => a.SelectMany(Texts),
            JsonValue v when v.TryGetValue<string>(out var text) => [text],
            _ => [],
        };

    /// <summary>Sentences that tell a length: a figure with the unit behind it.</summary>
    private static (string[] Mm, string[] Inch) Lengths(string json)
    {
        var texts = Texts(JsonNode.Parse(json)).Distinct(StringComparer.Ordinal).ToArray();
        return ([.. texts.Where(t => Mm().IsMatch(t))], [.. texts.Where(t => Inch().IsMatch(t))]);
    }

    // What was typed at the gauge stands as it was typed, with its unit.
    [GeneratedRegex("^[-0-9., ]+ mm(?:, [-0-9., ]+ mm)*$", RegexOptions.ExplicitCapture)]
    private static partial Regex AsRead();

    [GeneratedRegex(@"\d mm\b")]
    private static partial Regex Mm();

    [GeneratedRegex(@"\d(?: in\b|″)")]
    private static partial Regex Inch();

    [Theory]
    [InlineData("biogas-six.case.json")]
    [InlineData("trailer-four.case.json")]
    public async Task Whoever_works_in_inches_reads_inches_in_every_sentence_of_the_rooms(string name)
    {
        var (client, at) = await Demo(name);
        var url = $"{at}/answers?rooms=gauge,verdict,trace";
        var (metric, metricTag, _) = await Ask(client, url, "mm");
        var (inch, inchTag, _) = await Ask(client, url, "in");
        var (asMm, asInch) = (Lengths(metric), Lengths(inch));
        asMm.Mm.Length.ShouldBeGreaterThan(10);
        // What people and the knowledge wrote stands as they wrote it.
        asMm.Inch.Except(asInch.Inch, StringComparer.Ordinal).ShouldBeEmpty();
        asInch.Inch.Length.ShouldBeGreaterThan(10);
        asInch.Mm.Where(t => !AsRead().IsMatch(t)).ShouldBeEmpty();

        // One tag would show inches to whoever asked for millimetres.
        inchTag.ShouldNotBe(metricTag);
        (
            await Answers.AskedAgain(async known =>
            {
                var (_, tag, status) = await Ask(client, url, "in", known);
                return (tag, status);
            })
        ).ShouldBe(HttpStatusCode.NotModified);
        (await Ask(client, url, "in", metricTag)).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task The_unit_is_that_of_the_person_else_of_the_case_else_of_the_shop()
    {
        var (client, at) = await Demo("trailer-four.case.json");
        var url = $"{at}/answers?rooms=verdict";
        var metric = (await Ask(client, url)).Text;
        Lengths(metric).Mm.ShouldNotBeEmpty();

        var record = (await client.GetAsync(at).Json()).AsObject();
        record["lengths"] = "inch";
        (await client.PutAsJsonAsync($"{at}/arrival", record, Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        Lengths((await Ask(client, url)).Text).Inch.ShouldNotBeEmpty();
        (await client.GetAsync(at).Json())["lengths"]!.ToString().ShouldBe("inch");
        (await Ask(client, url, "mm")).Text.ShouldBe(metric);
        // A file that is kept is asked for by the browser, which says it in the address.
        (await Ask(client, $"{at}/gauge/sheet.csv?lengths=mm")).Text.ShouldContain("51.012 − 51.012 mm");
        (await Ask(client, $"{at}/gauge/sheet.csv")).Text.ShouldContain("2.0084 − 2.0083 in");
    }

    [Fact]
    public async Task A_refusal_is_told_in_the_unit_of_who_asked()
    {
        var (client, at) = await shop.NewCase();
        async Task<string> Refused(string lengths)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"{at}/readings")
            {
                Content = JsonContent.Create(
                    new
                    {
                        id = Guid.CreateVersion7(),
                        place = "K1",
                        characteristic = "crankpin-diameter",
                        typed = "9000",
                        setUnit = "mm",
                        instrument = "",
                        temperature = (double?)null,
                        corrects = (Guid?)null,
                        confirmed = false,
                    }
                ),
            };
            request.Headers.Add(Speech.Header, lengths);
            var answer = await client.SendAsync(request, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            return await answer.Content.ReadAsStringAsync(Cancel);
        }

        Lengths(await Refused("mm")).Mm.ShouldNotBeEmpty();
        var inch = Lengths(await Refused("in"));
        inch.Inch.ShouldNotBeEmpty();
        // It is asked in the unit that stands beside the entry, whatever the sentences are in.
        inch.Mm.Where(t => !t.StartsWith("Did you mean", StringComparison.Ordinal)).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("biogas-six.case.json")]
    [InlineData("trailer-four.case.json")]
    [InlineData("pump-twin.case.json")]
    public async Task No_answer_shows_the_code_of_a_fact_instead_of_its_sentence(string name)
    {
        var (client, at) = await Demo(name);
        string[] urls = [$"{at}/answers", $"{at}/dossier", "/api/reckoners", "/api/knowledge", "/api/label-pages", "/api/cases", "/api/causes"];
        foreach (var url in urls)
        {
            var (text, _, status) = await Ask(client, url);
            status.ShouldBe(HttpStatusCode.OK, url);
            var texts = Texts(JsonNode.Parse(text)).ToArray();
            texts.ShouldNotBeEmpty(url);
            texts.Where(t => t.Contains('.') && Codes.Contains(t)).ShouldBeEmpty(url);
        }
    }

    /// <summary>The casebook is one query: what comes next is worked out beside the requests, a moment after the last write.</summary>
    [Fact]
    public async Task What_comes_next_is_kept_on_the_case_without_anybody_asking()
    {
        var (client, at) = await shop.NewCase();
        (await NextAsync(at)).ShouldBe((1, "Strip: Record it as it came"));
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3), Cancel).Json();
        (await NextAsync(at)).Revision.ShouldBe(2);

        // A case that was read in has its own next step at once, too.
        using var file = new StringContent(await client.GetStringAsync($"{at}/export", Cancel), Encoding.UTF8, "application/json");
        var copy = await client.PostAsync("/api/cases/import", file, Cancel).Json();
        (await NextAsync($"/api/cases/{copy["id"]}")).Next.ShouldStartWith("Strip: ");
    }

    /// <summary>What is kept as next on a case, once it is that of its present revision.</summary>
    private async Task<(long Revision, string Next)> NextAsync(string at)
    {
        var id = Guid.Parse(at[^36..]);
        using var scope = shop.One.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
        var patience = DateTimeOffset.UtcNow.AddMinutes(2);
        var state = await db.States.AsNoTracking().SingleAsync(s => s.CaseId == id, Cancel);
        while (state.NextRevision < state.Revision && DateTimeOffset.UtcNow < patience)
        {
            await Task.Delay(100, Cancel);
            state = await db.States.AsNoTracking().SingleAsync(s => s.CaseId == id, Cancel);
        }

        state.NextRevision.ShouldBe(state.Revision);
        return (state.NextRevision, state.Next);
    }

    private static async Task<(string Text, string? Tag, HttpStatusCode Status)> InLanguage(HttpClient client, string url, string? language)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, url);
        if (language is not null)
        {
            request.Headers.Add("Cookie", Chosen(client, language));
        }

        var answer = await client.SendAsync(request, Cancel);
        return (await answer.Content.ReadAsStringAsync(Cancel), answer.Headers.ETag?.ToString(), answer.StatusCode);
    }

    private static string Chosen(HttpClient client, string language) =>
        string.Join("; ", [.. client.DefaultRequestHeaders.GetValues("Cookie"), $"{Speech.LanguageCookie}={language}"]);

    private static string Of(JsonNode room, string id, string list) =>
        room[list]!.AsArray().First(c => c!["id"]!.ToString() == id)!["name"]!.ToString();

    [Fact]
    public async Task Whoever_chose_German_reads_sentences_and_names_in_German_and_nobody_else_does()
    {
        var (client, at) = await Demo("biogas-six.case.json");
        var url = $"{at}/answers?rooms=trace,verdict,gauge";
        var (english, tag, _) = await InLanguage(client, url, null);
        var (german, germanTag, _) = await InLanguage(client, url, "de");
        germanTag.ShouldNotBe(tag);
        Texts(JsonNode.Parse(german)).ShouldContain("Hauptzapfendurchmesser");
        Texts(JsonNode.Parse(german)).ShouldContain(t => t.Contains("Faustregel", StringComparison.Ordinal));
        Texts(JsonNode.Parse(german)).ShouldContain(t => Regex.IsMatch(t, @"\d,\d+ mm"));
        Texts(JsonNode.Parse(german)).ShouldNotContain("Main journal diameter");
        // Of two who have the same case open each reads it in his own.
        (await InLanguage(client, url, null)).Text.ShouldBe(english);
        (await InLanguage(client, url, "de")).Text.ShouldBe(german);
        (await InLanguage(client, url, "xx")).Text.ShouldBe(english);

        // What was worked out is the same in both: only what is told of it differs, and lists by name go by other letters.
        static string Figures(string json) => string.Join(' ', Numbers(JsonNode.Parse(json)).Order(StringComparer.Ordinal));
        Figures(german).ShouldBe(Figures(english));

        var knowledge = JsonNode.Parse((await InLanguage(client, "/api/knowledge", "de")).Text)!;
        Of(knowledge, "bore-scratched", "signs").ShouldBe("Bohrung längs zerkratzt");
        Of(JsonNode.Parse((await InLanguage(client, "/api/knowledge", null)).Text)!, "bore-scratched", "signs").ShouldBe("Bore scratched lengthwise");
    }

    private static IEnumerable<string> Numbers(JsonNode? node) =>
        node switch
        {
            JsonObject o => o.SelectMany(p => Numbers(p.Value)),
            JsonArray a => a.SelectMany(Numbers),
            JsonValue v when v.GetValueKind() == System.Text.Json.JsonValueKind.Number => [v.ToJsonString()],
            _ => [],
        };

    [Fact]
    public async Task What_is_refused_is_refused_in_the_language_of_who_asked()
    {
        var client = await shop.As(Roles.Mechanic);
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/cases/{Guid.CreateVersion7()}");
        request.Headers.Add("Cookie", Chosen(client, "de"));
        var answer = await client.SendAsync(request, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await answer.Content.ReadAsStringAsync(Cancel)).ShouldContain("Das gibt es nicht: Fall.");
    }

    [Fact]
    public async Task A_paper_is_written_in_the_language_of_who_fetches_it()
    {
        var (client, at) = await Demo("trailer-four.case.json");
        var (german, _, status) = await InLanguage(client, $"{at}/dossier/page?kind=customer", "de");
        status.ShouldBe(HttpStatusCode.OK);
        german.ShouldContain("Was wir fanden");
        (await InLanguage(client, $"{at}/dossier/page?kind=customer", null)).Text.ShouldContain("What we found");
    }
}

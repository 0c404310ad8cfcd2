using System.Net;
using System.Net.Http.Json;
using System.Text;
using static VividSleuth.Server.Tests.Outside;

namespace VividSleuth.Server.Tests;

/// <summary>Dossiers as they go out: looked at by programs of other people.</summary>
public sealed class DossierTests(Shop shop)
{
    private async Task<(HttpClient Client, string At)> CaseAsync()
    {
        var (client, at) = await shop.NewCase();
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R4U", "overlay-wiped", 3)).Json();
        await client
            .PostAsJsonAsync(
                $"{at}/readings",
                new
                {
                    id = Guid.CreateVersion7(),
                    place = "K4",
                    characteristic = "crankpin-diameter",
                    typed = "71.98",
                    setUnit = "mm",
                    instrument = "",
                    temperature = (decimal?)null,
                    corrects = (Guid?)null,
                    confirmed = false,
                }
            )
            .Json();
        return (client, at);
    }

    /// <summary>Reference: qpdf, pdffonts and pdfinfo (Debian: qpdf, poppler-utils).</summary>
    [Theory]
    [InlineData("customer", "a4", "595.276 x 841.89")]
    [InlineData("examiner", "letter", "612 x 792")]
    [InlineData("own", "a4", "595.276 x 841.89")]
    [InlineData("class", "letter", "612 x 792")]
    public async Task A_dossier_on_paper_is_sound_tagged_and_brings_its_fonts(string kind, string size, string points)
    {
        var (client, at) = await CaseAsync();
        var pdf = Path.GetTempFileName();
        var response = await client.GetAsync($"{at}/dossier/pdf?kind={kind}&size={size}");
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        await File.WriteAllBytesAsync(pdf, await response.Content.ReadAsByteArrayAsync());
        (await RunAsync("qpdf", "--check", pdf)).ShouldContain("No syntax or stream encoding errors");
        var info = await RunAsync("pdfinfo", pdf);
        info.ShouldMatch(@"Tagged:\s+yes");
        info.ShouldContain(points);
        var fonts = (await RunAsync("pdffonts", pdf)).Split('\n', StringSplitOptions.RemoveEmptyEntries).Skip(2).ToArray();
        fonts.ShouldNotBeEmpty();
        fonts.ShouldAllBe(f => f.Contains("yes yes", StringComparison.Ordinal));
        (await RunAsync("pdftotext", "-layout", pdf, "-")).ShouldContain("come first");
        File.Delete(pdf);
    }

    [Fact]
    public async Task The_same_record_gives_the_same_bytes_and_another_record_others()
    {
        var (client, at) = await CaseAsync();
        var url = $"{at}/dossier/pdf?kind=examiner";
        var first = await client.GetByteArrayAsync(url);
        // A reader that writes the second of the day into the file would be told by this.
        await Task.Delay(TimeSpan.FromSeconds(1.1), TestContext.Current.CancellationToken);
        (await client.GetByteArrayAsync(url)).ShouldBe(first);
        await client.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("R5U", "overlay-wiped", 1)).Json();
        (await client.GetByteArrayAsync(url)).ShouldNotBe(first);
    }

    [Fact]
    public async Task One_page_needs_nothing_from_elsewhere_leads_to_its_readings_and_runs_nothing()
    {
        var (client, at) = await CaseAsync();
        var html = await client.GetStringAsync($"{at}/dossier/page?kind=examiner");
        html.ShouldNotContain("http://");
        html.ShouldNotContain("https://");
        html.ShouldNotContain("<script");
        html.ShouldContain("href=\"#R-F1\"");
        html.ShouldContain("id=\"R-F1\"");
        html.ShouldContain("71.98");
        // What a person wrote is text, whatever it looks like.
        await client.PostAsJsonAsync(
            $"{at}/findings",
            new
            {
                id = Guid.CreateVersion7(),
                place = "R4L",
                sign = "overlay-wiped",
                seen = "present",
                level = 1,
                spot = "",
                note = "<script>alert(1)</script>",
            }
        );
        (await client.GetStringAsync($"{at}/dossier/page?kind=examiner")).ShouldContain("&lt;script&gt;alert(1)&lt;/script&gt;");
    }

    [Theory]
    [InlineData("kind=poem", "kind")]
    [InlineData("kind=examiner&pictures=nonsense", "pictures")]
    [InlineData("kind=examiner&pictures=0198f000-0000-7000-8000-000000000001", "pictures")]
    public async Task What_no_dossier_can_be_is_told(string asked, string field)
    {
        var (client, at) = await CaseAsync();
        (await client.GetAsync($"{at}/dossier/page?{asked}").Problem()).FirstField().ShouldBe(field);
        (await client.GetAsync($"{at}/dossier/pdf?kind=own&size=a0").Problem()).FirstField().ShouldBe("size");
    }

    /// <summary>Wherever in the file it stands: what is read at once ends somewhere, too.</summary>
    [Fact]
    public void What_a_writer_draws_by_lot_is_taken_out_and_nothing_moves()
    {
        static byte[] Settled(int before, string tag, string id, string time, string more = "")
        {
            var pdf = Encoding.Latin1.GetBytes(
                $"%PDF-1.7 {new string('.', before)}/CreationDate(D:20261112000000+00'00') /BaseFont/{tag}+Plain /NM({id}) /M(D:{time}+00'00') xmp uuid:{id} /ID [<{id.Replace("-", "", StringComparison.Ordinal)}><{id.Replace("-", "", StringComparison.Ordinal)}>]{more}"
            );
            PdfBytes.Settle(pdf);
            return pdf;
        }

        for (var before = 64_900; before < 65_600; before += 7)
        {
            var one = Settled(before, "QWERTY", "b18fb6a6-68e8-4054-89b9-98e5d11f891d", "20261128180605");
            one.ShouldBe(Settled(before, "ASDFGH", "8e97b2fc-edce-401b-87a6-2821f8200f73", "20261128180622"));
            one[9..(before + 9)].ShouldAllBe(b => b == (byte)'.');
            Settled(before, "QWERTY", "b18fb6a6-68e8-4054-89b9-98e5d11f891d", "20261128180605", "x")[..one.Length].ShouldNotBe(one);
        }
    }

    [Fact]
    public void A_picture_whose_bytes_look_like_something_drawn_by_lot_stays_as_it_is()
    {
        const string Picture =
            "7 0 obj<</Subtype/Image/Filter/DCTDecode/Length 20>>\nstream\n/QWERTY+/NM(b18fb6a6-68e8-4054-89b9-98e5d11f891d\nendstream endobj";
        var pdf = Encoding.Latin1.GetBytes(
            $"/BaseFont/QWERTY+Plain {Picture} 8 0 obj<</Length 3>>stream\nabc\nendstream endobj /BaseFont/ASDFGH+Plain"
        );
        PdfBytes.Settle(pdf);
        Encoding
            .Latin1.GetString(pdf)
            .ShouldBe($"/BaseFont/AAAAAA+Plain {Picture} 8 0 obj<</Length 3>>stream\nabc\nendstream endobj /BaseFont/AAAAAB+Plain");
    }

    /// <summary>A paragraph that goes on overleaf, wherever on its page it begins. Reference: qpdf and pdftotext.</summary>
    [Fact]
    public async Task A_complaint_longer_than_a_page_goes_on_overleaf()
    {
        var (client, at) = await CaseAsync();
        var complaint = string.Join(' ', Enumerable.Range(0, 700).Select(i => $"word{i}"));
        await client
            .PutAsJsonAsync(
                $"{at}/arrival",
                new
                {
                    version = 1,
                    title = "Long told",
                    owner = "",
                    engineName = "Test six",
                    serial = "",
                    hours = (decimal?)null,
                    complaint,
                    past = "",
                    risks = new Dictionary<string, bool>(),
                }
            )
            .Json();
        var pdf = Path.GetTempFileName();
        await File.WriteAllBytesAsync(pdf, await client.GetByteArrayAsync($"{at}/dossier/pdf?kind=customer"));
        (await RunAsync("qpdf", "--check", pdf)).ShouldContain("No syntax or stream encoding errors");
        var text = await RunAsync("pdftotext", pdf, "-");
        Enumerable.Range(0, 700).ShouldAllBe(i => text.Contains($"word{i}", StringComparison.Ordinal));
        File.Delete(pdf);
    }

    [Fact]
    public async Task A_paper_tells_how_far_it_is_and_then_comes_as_it_would_have_come()
    {
        var (client, at) = await CaseAsync();
        var told = await client.GetByteArrayAsync($"{at}/dossier/pdf/told?kind=examiner");
        var shares = new List<double>();
        for (var from = 0; ; )
        {
            var end = Array.IndexOf(told, (byte)'\n', from);
            var line = System.Text.Json.Nodes.JsonNode.Parse(told.AsSpan(from, end - from))!;
            from = end + 1;
            if (line["bytes"] is { } bytes)
            {
                told.AsSpan(from).ToArray().ShouldBe(await client.GetByteArrayAsync($"{at}/dossier/pdf?kind=examiner"));
                bytes.GetValue<int>().ShouldBe(told.Length - from);
                break;
            }

            shares.Add(line["done"]!.GetValue<double>());
        }

        shares.Count.ShouldBeGreaterThan(5);
        shares.ShouldBe(shares.Order());
        shares[^1].ShouldBe(1);
        (await client.GetAsync($"{at}/dossier/pdf/told?kind=gossip").Problem()).FirstField().ShouldBe("kind");
    }
}

using System.Text.Json;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Tests.Casebook;

/// <summary>
/// Rules that the bench keeps for itself without a network: the same file is read by web/src/gauge/typed.test.ts, so that browser and server
/// cannot drift apart.
/// </summary>
public sealed class SharedCasesTests
{
    private static readonly JsonElement Cases = JsonDocument
        .Parse(File.ReadAllText(Path.Combine(Start.Root(), "tests/typed-figures.json")))
        .RootElement;

    public static TheoryData<int> Of(string list) => [.. Enumerable.Range(0, Cases.GetProperty(list).GetArrayLength())];

    private static JsonElement Case(string list, int i) => Cases.GetProperty(list)[i];

    private static decimal? Figure(JsonElement c, string name) =>
        c.TryGetProperty(name, out var v) && v.ValueKind == JsonValueKind.Number ? v.GetDecimal() : null;

    private static bool Flag(JsonElement c, string name) => c.TryGetProperty(name, out var v) && v.GetBoolean();

    private static Guid Id(int n) => new(n, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);

    [Fact]
    public void There_are_enough_of_each()
    {
        foreach (var (list, least) in new[] { ("read", 60), ("slips", 25), ("limits", 6), ("expected", 6), ("sums", 4), ("holes", 3) })
        {
            Cases.GetProperty(list).GetArrayLength().ShouldBeGreaterThanOrEqualTo(least, list);
        }
    }

    [Theory]
    [MemberData(nameof(Of), "read")]
    public void A_figure_is_read_as_the_browser_reads_it(int i)
    {
        var c = Case("read", i);
        var (typed, unit) = (c.GetProperty("typed").GetString()!, c.GetProperty("unit").GetString()!);
        var quantity = c.TryGetProperty("quantity", out var q) ? Enum.Parse<Quantity>(q.GetString()!, ignoreCase: true) : Quantity.Length;
        if (Figure(c, "value") is not { } value)
        {
            Should.Throw<ProblemException>(() => QuantityParser.Parse(typed, quantity, unit), typed);
            return;
        }

        var read = QuantityParser.Parse(typed, quantity, unit);
        read.Value.ShouldBe(value, typed);
        read.Relative.ShouldBe(Flag(c, "relative"), typed);
        read.Within.ShouldBe(Figure(c, "within") ?? 0, typed);
        read.Ends.ShouldBe((value - read.Within, value + read.Within));
    }

    [Theory]
    [MemberData(nameof(Of), "slips")]
    public void A_slip_is_asked_about_as_the_browser_asks(int i)
    {
        var c = Case("slips", i);
        var (typed, unit) = (c.GetProperty("typed").GetString()!, c.GetProperty("unit").GetString()!);
        var asked = Suspicion.Of(
            QuantityParser.Parse(typed, Quantity.Length, unit).Value,
            Figure(c, "expected"),
            Flag(c, "gap"),
            typed,
            Figure(c, "least"),
            Figure(c, "most"),
            text => QuantityParser.Parse(text, Quantity.Length, unit).Value,
            Flag(c, "peers")
        );
        if (c.GetProperty("asks").GetString() is { } words)
        {
            asked.ShouldNotBeNull(typed).Text.ShouldContain(words);
        }
        else
        {
            asked.ShouldBeNull(typed);
        }
    }

    [Theory]
    [MemberData(nameof(Of), "limits")]
    public void The_limit_that_counts_is_the_one_that_the_browser_takes(int i)
    {
        var c = Case("limits", i);
        var says = c.GetProperty("says").GetString();
        var limits = c.GetProperty("limits")
            .EnumerateArray()
            .Select(l => new Limit
            {
                Id = Id(l.GetProperty("id").GetInt32()),
                Characteristic = l.GetProperty("characteristic").GetString()!,
                On = l.GetProperty("on").GetString()!,
                Nominal = Figure(l, "nominal"),
                Least = Figure(l, "least"),
                Most = Figure(l, "most"),
                Wear = Figure(l, "wear"),
                Source = Enum.Parse<LimitSource>(l.GetProperty("source").GetString()!, ignoreCase: true),
                SourceText = $"limit {l.GetProperty("id").GetInt32()}",
                At = l.GetProperty("at").GetDateTimeOffset(),
                WithdrawnAt = Flag(l, "withdrawn") ? l.GetProperty("at").GetDateTimeOffset() : null,
            })
            .ToArray();
        var kind = c.GetProperty("kind").GetString()!;
        LimitBook.Nominal(limits, "crankpin-diameter", kind).ShouldBe(Figure(c, "nominal"), says);
        var book = new LimitBook(limits, KnowledgeBase.BuiltIn, Schools.Usual, Start.InlineSix);
        book.Nominal("crankpin-diameter", kind).ShouldBe(Figure(c, "nominal"), says);
        var applied = book.For("crankpin-diameter", kind, _ => null);
        (applied is { Least: null, Most: null, Wear: null } ? null : applied?.SourceText.Say()).ShouldBe(
            Figure(c, "bounds") is { } n ? $"limit {n}" : null,
            says
        );
    }

    [Theory]
    [MemberData(nameof(Of), "service")]
    public void What_may_stay_in_service_is_what_the_browser_says(int i)
    {
        var c = Case("service", i);
        double? Is(string name) => (double?)Figure(c, name);
        var limit = new AppliedLimit(Is("least"), Is("most"), LimitSource.MakersManual, Fact.Text("manual"), Is("nominal"), Is("wear"));
        (limit.ServiceLeast, limit.ServiceMost).ShouldBe((Is("serviceLeast"), Is("serviceMost")), c.GetProperty("says").GetString());
    }

    [Theory]
    [MemberData(nameof(Of), "expected")]
    public void The_size_that_is_expected_is_the_one_that_the_browser_expects(int i)
    {
        var c = Case("expected", i);
        var readings = c.GetProperty("readings")
            .EnumerateArray()
            .Select(r => new Reading
            {
                Id = Id(r.GetProperty("id").GetInt32()),
                Place = r.GetProperty("place").GetString()!,
                Characteristic = r.GetProperty("characteristic").GetString()!,
                Phase = Enum.Parse<Phase>(r.GetProperty("phase").GetString()!, ignoreCase: true),
                Value = r.GetProperty("value").GetDecimal(),
                Corrects = Figure(r, "corrects") is { } old ? Id((int)old) : null,
                WithdrawnAt = Flag(r, "withdrawn") ? DateTimeOffset.UnixEpoch : null,
            })
            .ToArray();
        var phase = Enum.Parse<Phase>(c.GetProperty("phase").GetString()!, ignoreCase: true);
        var corrects = Figure(c, "corrects") is { } n ? Id((int)n) : (Guid?)null;
        GaugeEntries
            .Expected(readings, [], Start.Table(Start.InlineSix), "crankpin-diameter", "crankpin", phase, corrects)
            .Median.ShouldBe(Figure(c, "median"), c.GetProperty("says").GetString());
    }

    [Theory]
    [MemberData(nameof(Of), "sums")]
    public void Fasteners_add_up_as_the_browser_adds_them(int i)
    {
        var c = Case("sums", i);
        var set = Ledger(
            c,
            new FastenerSet
            {
                Id = "bolts",
                Count = 12,
                Lengths = [40],
            }
        );
        (set.In, set.Out, set.Broken).ShouldBe(
            (c.GetProperty("in").GetInt32(), c.GetProperty("out").GetInt32(), c.GetProperty("broken").GetInt32()),
            c.GetProperty("says").GetString()
        );
    }

    [Theory]
    [MemberData(nameof(Of), "holes")]
    public void Holes_stand_as_the_browser_draws_them(int i)
    {
        var c = Case("holes", i);
        var set = Ledger(
            c,
            new FastenerSet
            {
                Id = "bolts",
                Count = 4,
                Lengths = [30, 55],
            }
        );
        var told = set.Holes.Select(h => (h.State is { } s ? char.ToLowerInvariant(s.ToString()[0]) + s.ToString()[1..] : null, h.Length)).ToArray();
        var expected = c.GetProperty("holes")
            .EnumerateArray()
            .Select(h => (h[0].GetString(), h[1].ValueKind == JsonValueKind.Number ? h[1].GetDecimal() : (decimal?)null));
        told.ShouldBe(expected, c.GetProperty("says").GetString());
    }

    private static SetLedger Ledger(JsonElement c, FastenerSet set)
    {
        var at = DateTimeOffset.UnixEpoch;
        var moves = c.GetProperty("moves")
            .EnumerateArray()
            .Select(m => new FastenerMove
            {
                Id = Guid.CreateVersion7(),
                Step = "cover",
                Set = "bolts",
                At = at = at.AddMinutes(1),
                State = Enum.Parse<FastenerState>(m.GetProperty("state").GetString()!, ignoreCase: true),
                Count = m.GetProperty("count").GetInt32(),
                Hole = m.GetProperty("hole").GetInt32(),
                Length = Figure(m, "length"),
            })
            .ToArray();
        return FastenerLedger.Of(new StripStep { Id = "cover", Fasteners = [set] }, Engine.From(Start.InlineSix), moves).Single();
    }
}

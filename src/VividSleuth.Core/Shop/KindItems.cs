using System.Globalization;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Shop;

public enum KindItemOf
{
    Stroke,
    RodLength,
    Limit,
    Sizes,
    Tightening,
}

/// <summary>One thing that a kind and a case can both say, under a name by which the two are held against each other.</summary>
/// <param name="Key">limit/pin-diameter/K/makers-manual, sizes/K, tightening/head/head, stroke.</param>
/// <param name="Name">What it is.</param>
/// <param name="Says">What it says, with its source.</param>
/// <param name="Record">The record of a case; null of the stroke and the length of the rods.</param>
public sealed record KindItem(string Key, KindItemOf Of, Fact Name, Fact Says, CaseRecord? Record, decimal? Figure = null);

/// <summary>The one home of what a kind of engine and a case have in common: what counts of each, and when the two say the same.</summary>
public static class KindItems
{
    /// <summary>What a sheet says, each thing once.</summary>
    public static IReadOnlyList<KindItem> Of(KindSheet sheet, CaseReader like) =>
        All(sheet.Stroke, sheet.RodLength, sheet.Limits, sheet.Sizes, sheet.Tightenings, like);

    /// <summary>What counts in a case, each thing once: of two that stand the one that is gone by.</summary>
    public static IReadOnlyList<KindItem> Of(CaseReader reader) =>
        All(
            reader.Case.Stroke,
            reader.Case.RodLength,
            [
                .. reader
                    .Case.Limits.Where(l => l.Stands())
                    .GroupBy(KeyOf, StringComparer.Ordinal)
                    .Select(g => LimitBook.Ranked(g, g.First().Characteristic, g.First().On).First()),
            ],
            [
                .. reader
                    .Case.Sizes.Where(s => s.Stands())
                    .Select(s => s.Kind)
                    .Distinct(StringComparer.Ordinal)
                    .Select(k => new SizeBook(reader.Knowledge, reader.Case.Sizes, StepSystem.Both).Listed(k)!),
            ],
            [.. Tightening.Latest(reader.Case.Tightenings).Values.Where(t => t.Passes.Count > 0)],
            reader
        );

    public static string KeyOf(Limit limit) => $"limit/{limit.Characteristic}/{limit.On}/{limit.Source}";

    public static string KeyOf(ServiceSizes sizes) => $"sizes/{sizes.Kind}";

    public static string KeyOf(Tightening how) => $"tightening/{how.Step}/{how.Set}";

    /// <summary>Whether two things of one name say the same. Who wrote them when, and in which unit, does not count.</summary>
    public static bool Same(KindItem a, KindItem b) =>
        (a.Record, b.Record) switch
        {
            (Limit x, Limit y) => (x.Nominal, x.Least, x.Most, x.Wear, x.SourceText) == (y.Nominal, y.Least, y.Most, y.Wear, y.SourceText),
            (ServiceSizes x, ServiceSizes y) => x.Steps.SequenceEqual(y.Steps)
                && (x.Furthest, x.FurthestBy, x.SourceText) == (y.Furthest, y.FurthestBy, y.SourceText),
            (Tightening x, Tightening y) => x.Passes.SequenceEqual(y.Passes)
                && x.Order.SequenceEqual(y.Order)
                && (x.Lubricant, x.ThreadLock, x.Sealant, x.Source, x.SourceText, x.Page, x.Note)
                    == (y.Lubricant, y.ThreadLock, y.Sealant, y.Source, y.SourceText, y.Page, y.Note),
            _ => a.Figure == b.Figure,
        };

    /// <summary>A record with what it says and nothing of who wrote it where: ready for another case, or for the sheet of a kind.</summary>
    public static CaseRecord Bare(CaseRecord record) =>
        record switch
        {
            Limit l => new Limit
            {
                Characteristic = l.Characteristic,
                On = l.On,
                Nominal = l.Nominal,
                Least = l.Least,
                Most = l.Most,
                Wear = l.Wear,
                Unit = l.Unit,
                Source = l.Source,
                SourceText = l.SourceText,
            },
            ServiceSizes s => new ServiceSizes
            {
                Kind = s.Kind,
                Steps = [.. s.Steps],
                Unit = s.Unit,
                Furthest = s.Furthest,
                FurthestBy = s.FurthestBy,
                SourceText = s.SourceText,
            },
            Tightening t => new Tightening
            {
                Step = t.Step,
                Set = t.Set,
                Passes = [.. t.Passes],
                Unit = t.Unit,
                Order = [.. t.Order],
                Lubricant = t.Lubricant,
                ThreadLock = t.ThreadLock,
                Sealant = t.Sealant,
                Source = t.Source,
                SourceText = t.SourceText,
                Page = t.Page,
                Note = t.Note,
            },
            _ => throw new InvalidOperationException(record.GetType().Name),
        };

    /// <summary>Begins a case with all that its kind says, judged by the version that stands.</summary>
    /// <param name="engineCase">A new case, with nothing entered.</param>
    public static void Begin(EngineCase engineCase, EngineKind kind)
    {
        (engineCase.KindId, engineCase.KindVersion) = (kind.Id, kind.Version);
        (engineCase.Stroke, engineCase.RodLength, engineCase.Lengths) = (kind.Sheet.Stroke, kind.Sheet.RodLength, kind.Sheet.Lengths);
        (engineCase.Script, engineCase.Variants) = (kind.Sheet.Script, [.. kind.Sheet.Variants]);
        engineCase.Limits = [.. kind.Sheet.Limits.Select(l => Own(l, KeyOf(l)))];
        engineCase.Sizes = [.. kind.Sheet.Sizes.Select(s => Own(s, KeyOf(s)))];
        engineCase.Tightenings = [.. kind.Sheet.Tightenings.Select(t => Own(t, KeyOf(t)))];

        T Own<T>(T record, string key)
            where T : CaseRecord
        {
            var own = (T)Bare(record);
            (own.Id, own.CaseId) = (DerivedId.Of(engineCase.Id, key), engineCase.Id);
            return own;
        }
    }

    private static KindItem[] All(
        decimal? stroke,
        decimal? rodLength,
        IReadOnlyList<Limit> limits,
        IReadOnlyList<ServiceSizes> sizes,
        IReadOnlyList<Tightening> tightenings,
        CaseReader like
    ) =>
        [
            .. Figure(KindItemOf.Stroke, "stroke", Fact.Of("shop.stroke"), stroke),
            .. Figure(KindItemOf.RodLength, "rod-length", Fact.Of("shop.rod-length"), rodLength),
            .. limits.Select(l => new KindItem(KeyOf(l), KindItemOf.Limit, NameOf(l, like.Knowledge), Says(l, like.Knowledge), l)),
            .. sizes.Select(s => new KindItem(KeyOf(s), KindItemOf.Sizes, Fact.Of("shop.sizes-of", ("kind", PartKindWords(s.Kind))), Says(s), s)),
            .. tightenings.Select(t => new KindItem(KeyOf(t), KindItemOf.Tightening, NameOf(t, like.Book), Says(t), t)),
        ];

    private static IEnumerable<KindItem> Figure(KindItemOf of, string key, Fact name, decimal? figure) =>
        figure is { } mm ? [new KindItem(key, of, name, Fact.Of("shop.length", ("value", Length(mm, 2))), null, mm)] : [];

    private static Fact NameOf(Limit limit, KnowledgeBase knowledge)
    {
        var name = knowledge.Characteristic(limit.Characteristic)?.Name ?? limit.Characteristic;
        return limit.On.Length == 0 ? Fact.Text(name) : Fact.Of("shop.limit-on", ("name", name), ("kind", PartKindWords(limit.On)));
    }

    private static Fact Says(Limit l, KnowledgeBase knowledge)
    {
        var quantity = knowledge.Characteristic(l.Characteristic)?.Quantity ?? Quantity.Length;
        // As finely as the finest of them was given.
        var digits = new[] { l.Nominal, l.Least, l.Most, l.Wear }.Max(v => v is { } given ? (int)(given / 1.0000000000000000000000000000m).Scale : 0);
        Amount? Told(decimal? value) => value is { } v ? new Amount((double)v, quantity, digits) : null;
        return Fact.Of(
            "shop.limit-says",
            ("nominal", Told(l.Nominal)),
            ("between", l is { Least: not null, Most: not null } ? Fact.Of("shop.from-to", ("least", Told(l.Least)), ("most", Told(l.Most))) : null),
            ("least", l.Most is null ? Told(l.Least) : null),
            ("most", l.Least is null ? Told(l.Most) : null),
            ("wear", Told(l.Wear)),
            ("source", l.SourceText)
        );
    }

    private static Fact Says(ServiceSizes s) =>
        Fact.Of(
            "shop.sizes-say",
            ("steps", s.Steps.Select(x => Fact.Of("shop.length", ("value", Length(x, 3)))).ToArray()),
            ("furthest", s.Furthest is { } most ? Length(most, 3) : null),
            ("source", s.SourceText)
        );

    private static Fact NameOf(Tightening t, StripBook book) =>
        book.Step(t.Step) is { } step
            ? Fact.Of("shop.tightening-of", ("step", step.Name), ("set", step.Fasteners.Find(f => f.Id == t.Set)?.Name ?? t.Set))
            : Fact.Text($"{t.Step}/{t.Set}");

    private static Fact Says(Tightening t) =>
        Fact.Of(
            "shop.tightening-says",
            (
                "passes",
                t.Passes.Select(p =>
                        Fact.Of(
                            p.Loosen ? "shop.pass-loosens" : "shop.pass",
                            ("torque", p.Torque is { } torque ? new Amount((double)torque, Quantity.Torque, torque % 1 == 0 ? 0 : 1) : null),
                            ("angle", p.Angle?.ToString("0.#", CultureInfo.InvariantCulture))
                        )
                    )
                    .ToArray()
            ),
            ("source", t.SourceText),
            ("page", t.Page.Length > 0 ? t.Page : null)
        );

    private static Fact PartKindWords(string kind) => PartKinds.Find(kind)?.Name ?? Fact.Text(kind);

    private static Amount Length(decimal value, int digits) => new((double)value, Quantity.Length, digits);
}

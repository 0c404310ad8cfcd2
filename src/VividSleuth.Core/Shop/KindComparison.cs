using VividSleuth.Core.Casebook;

namespace VividSleuth.Core.Shop;

public enum KindRowState
{
    Same,

    /// <summary>The kind says it, the case does not: offered to the case.</summary>
    OnlyKind,

    /// <summary>The case says it, the kind does not: offered to the kind.</summary>
    OnlyCase,

    /// <summary>Both say it, each otherwise.</summary>
    Differs,

    /// <summary>The case has it from the version it was judged by; the kind no longer says it.</summary>
    Dropped,
}

/// <param name="Kind">What the kind says in the version that stands; null where it says nothing.</param>
/// <param name="Case">What counts in the case.</param>
public sealed record KindRow(string Key, KindItemOf Of, Fact Name, KindRowState State, Fact? Kind, Fact? Case);

/// <summary>A kind of engine and a case of it side by side: what either could take from the other. Nothing is taken by itself.</summary>
public static class KindComparison
{
    /// <param name="sheet">The kind as it stands.</param>
    /// <param name="judgedBy">The version that the case took over; null where it took none.</param>
    public static IReadOnlyList<KindRow> Of(KindSheet sheet, KindSheet? judgedBy, CaseReader reader)
    {
        var kind = KindItems.Of(sheet, reader).ToDictionary(i => i.Key, StringComparer.Ordinal);
        var had = judgedBy is null ? [] : KindItems.Of(judgedBy, reader).DistinctBy(i => i.Key).ToDictionary(i => i.Key, StringComparer.Ordinal);
        var own = KindItems.Of(reader).ToDictionary(i => i.Key, StringComparer.Ordinal);
        return
        [
            .. kind
                .Values.Concat(own.Values.Where(i => !kind.ContainsKey(i.Key)))
                .Select(item =>
                {
                    var (there, here) = (kind.GetValueOrDefault(item.Key), own.GetValueOrDefault(item.Key));
                    var state = there is null
                        ? had.TryGetValue(item.Key, out var before) && KindItems.Same(before, here!)
                            ? KindRowState.Dropped
                            : KindRowState.OnlyCase
                        : here is null
                            ? KindRowState.OnlyKind
                            : KindItems.Same(there, here)
                                ? KindRowState.Same
                                : KindRowState.Differs;
                    return new KindRow(item.Key, item.Of, item.Name, state, there?.Says, here?.Says);
                })
                .OrderBy(r => r.Of)
                .ThenBy(r => r.Key, StringComparer.Ordinal),
        ];
    }

    /// <summary>A sheet with what a case says in the place of what it said itself.</summary>
    /// <param name="keys">What is taken from the case; one that the case does not say is left as it is.</param>
    public static KindSheet With(KindSheet sheet, CaseReader reader, IReadOnlyCollection<string> keys)
    {
        var taken = KindItems.Of(reader).Where(i => keys.Contains(i.Key)).ToArray();
        return sheet with
        {
            Stroke = Array.Find(taken, i => i.Of == KindItemOf.Stroke)?.Figure ?? sheet.Stroke,
            RodLength = Array.Find(taken, i => i.Of == KindItemOf.RodLength)?.Figure ?? sheet.RodLength,
            Limits = Put(sheet.Limits, KindItems.KeyOf),
            Sizes = Put(sheet.Sizes, KindItems.KeyOf),
            Tightenings = Put(sheet.Tightenings, KindItems.KeyOf),
        };

        List<T> Put<T>(List<T> records, Func<T, string> keyOf)
            where T : CaseRecord
        {
            T[] fresh = [.. taken.Select(i => i.Record).OfType<T>().Select(r => (T)KindItems.Bare(r))];
            var replaced = fresh.Select(keyOf).ToHashSet(StringComparer.Ordinal);
            return [.. records.Where(r => !replaced.Contains(keyOf(r))), .. fresh];
        }
    }

    /// <summary>The sheet of a new kind, of all that counts in a case.</summary>
    public static KindSheet From(CaseReader reader, string name) =>
        With(
            new KindSheet
            {
                Name = name,
                // What this engine has of its own is of it and not of its kind.
                Layout = reader.Case.Layout with
                {
                    OwnParts = [.. reader.Case.Layout.OwnParts.Where(o => !o.Left)],
                },
                Lengths = reader.Case.Lengths,
                Script = reader.Case.Script,
                Variants = [.. reader.Case.Variants],
            },
            reader,
            [.. KindItems.Of(reader).Select(i => i.Key)]
        );
}

using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Look;

/// <summary>Cracks and breaks that were seen, by place. One rule for all who must not work on such a part.</summary>
public sealed class Cracks
{
    private readonly Dictionary<string, Finding> _at;
    private readonly Address? _ofShaft;

    public Cracks(IReadOnlyList<Finding> findings, AddressTable table, KnowledgeBase knowledge)
    {
        _at = findings
            .Where(f => f.Stands() && f.Seen == Seen.Present && IsCrack(f, knowledge))
            .GroupBy(f => f.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.MaxBy(f => f.Level)!, StringComparer.Ordinal);
        _ofShaft = !table.Engine.Layout.IsBuilt ? table.All.FirstOrDefault(IsOfShaft) : null;
        bool IsOfShaft(Address a) => OfShaft(a.Kind.Id) && _at.ContainsKey(a.Code);
    }

    public static bool IsCrack(Finding finding, KnowledgeBase knowledge) =>
        knowledge.Sign(finding.Sign) is { CrackFrom: > 0 } sign && finding.Level >= sign.CrackFrom;

    /// <summary>The crack found at a place itself; null without one.</summary>
    public Finding? At(string place) => _at.GetValueOrDefault(place);

    /// <summary>
    /// Where the crack is that condemns a part: its own place, or of a one-piece crankshaft any place of the shaft. Null where it is whole.
    /// </summary>
    public string? Condemns(Address place) =>
        _at.ContainsKey(place.Code) ? place.Code
        : OfShaft(place.Kind.Id) ? _ofShaft?.Code
        : null;

    private static bool OfShaft(string kind) => kind is PartKinds.Crankpin or PartKinds.MainJournal or "crankshaft";
}

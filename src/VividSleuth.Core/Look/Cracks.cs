using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Look;

/// <summary>
/// Cracks and breaks that were seen, by place. One rule for all who must not work on such a part. A crack test by a specialist decides whether what
/// was seen is one; nothing else does.
/// </summary>
public sealed class Cracks
{
    private readonly Dictionary<string, Finding> _at;
    private readonly Dictionary<string, Examination> _failed;
    private readonly Address? _ofShaft;

    public Cracks(IReadOnlyList<Finding> findings, IReadOnlyList<Examination> examinations, AddressTable table, KnowledgeBase knowledge)
    {
        var tests = Examination.Last(examinations);
        var onePiece = !table.Engine.Layout.IsBuilt;
        _failed = tests
            .Values.Where(e => !e.Passed && knowledge.Examination(e.Check)?.Settles == "crack")
            .GroupBy(e => e.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
        _at = findings
            .Where(f => f.Stands() && f.Seen == Seen.Present && IsCrack(f, knowledge) && !Cleared(f))
            .GroupBy(f => f.Place, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.MaxBy(f => f.Level)!, StringComparer.Ordinal);
        _ofShaft = onePiece ? table.All.FirstOrDefault(IsOfShaft) : null;

        bool IsOfShaft(Address a) => OfShaft(a.Kind.Id) && IsCracked(a.Code);

        // A test of the whole shaft speaks for each of its places.
        bool Cleared(Finding finding) =>
            knowledge.Sign(finding.Sign) is { Test.Length: > 0 } sign
            && (
                Passed(finding.Place, sign.Test, finding)
                || (
                    onePiece
                    && table.Find(finding.Place) is { } at
                    && OfShaft(at.Kind.Id)
                    && table.OfKind("crankshaft").FirstOrDefault() is { } shaft
                    && Passed(shaft.Code, sign.Test, finding)
                )
            );

        bool Passed(string place, string test, Finding finding) =>
            tests.GetValueOrDefault((place, test)) is { Passed: true } result && result.At >= finding.At;
    }

    public static bool IsCrack(Finding finding, KnowledgeBase knowledge) =>
        knowledge.Sign(finding.Sign) is { CrackFrom: > 0 } sign && finding.Level >= sign.CrackFrom;

    /// <summary>The crack that was seen at a place itself; null without one, and where a test alone found it.</summary>
    public Finding? At(string place) => _at.GetValueOrDefault(place);

    /// <summary>The crack test that a place itself failed; null without one.</summary>
    public Examination? FailedAt(string place) => _failed.GetValueOrDefault(place);

    /// <summary>
    /// Where the crack is that condemns a part: its own place, or of a one-piece crankshaft any place of the shaft. Null where it is whole.
    /// </summary>
    public string? Condemns(Address place) =>
        IsCracked(place.Code) ? place.Code
        : OfShaft(place.Kind.Id) ? _ofShaft?.Code
        : null;

    private bool IsCracked(string place) => _at.ContainsKey(place) || _failed.ContainsKey(place);

    private static bool OfShaft(string kind) => kind is PartKinds.Crankpin or PartKinds.MainJournal or "crankshaft";
}

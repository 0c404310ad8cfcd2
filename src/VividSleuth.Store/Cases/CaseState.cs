using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Measures;

namespace VividSleuth.Store.Cases;

/// <summary>
/// What the casebook says of a case without opening it. Its row is the case's lock: every write raises the revision first, in its own
/// transaction, so that writes to one case follow one another over all instances.
/// </summary>
public sealed class CaseState
{
    public Guid CaseId { get; set; }

    /// <summary>Grows with every write to the case; what was worked out of one revision stands for that one.</summary>
    public long Revision { get; set; }

    /// <summary>How often the numbering was changed; an address means what it meant only as long as this stands.</summary>
    public int Numbering { get; set; }

    /// <summary>When and by whom it was last written.</summary>
    public DateTimeOffset LastAt { get; set; }

    public string LastBy { get; set; } = "";

    /// <summary>Records that stand.</summary>
    public int Findings { get; set; }

    public int Readings { get; set; }

    public int Steps { get; set; }

    public int Conclusions { get; set; }

    /// <summary>What comes next, as worked out of <see cref="NextRevision"/>; empty before anybody asked.</summary>
    public string Next { get; set; } = "";

    /// <summary>The same in the other languages, by their tags.</summary>
    public Dictionary<string, string> NextIn { get; set; } = [];

    /// <summary>What comes next, told in a language; in English where it was not told in that one.</summary>
    public string NextOf(string tag) => NextIn.GetValueOrDefault(tag, Next);

    /// <summary>Hold points to be signed, of <see cref="NextRevision"/> as the others here.</summary>
    public int ToSign { get; set; }

    /// <summary>Parts in other hands.</summary>
    public int Away { get; set; }

    /// <summary>Lines of the order of which something is still to come.</summary>
    public int Coming { get; set; }

    /// <summary>Who has the parts and from whom the lines come.</summary>
    public List<string> With { get; set; } = [];

    /// <summary>The earliest day on which any of them was promised.</summary>
    public DateOnly? Due { get; set; }

    /// <summary>The day on which its owner was told that it runs; null where nobody told one, or it ran.</summary>
    public DateOnly? Promised { get; set; }

    /// <summary>The day that is as often too early as too late, as it was reckoned on <see cref="LikelyOn"/>; null where nothing is promised.</summary>
    public DateOnly? Likely { get; set; }

    public DateOnly? LikelyOn { get; set; }

    public long NextRevision { get; set; }

    /// <summary>Takes over what comes next and what the case waits for.</summary>
    /// <param name="english">In which it is told where nothing else is said.</param>
    /// <param name="others">Languages in which it is told too.</param>
    public void Take(Progress progress, Telling english, params IReadOnlyList<Telling> others)
    {
        var waits = progress.Waits;
        Next = english.Say(progress.Next);
        NextIn = others.ToDictionary(t => t.Tag, t => t.Say(progress.Next), StringComparer.Ordinal);
        (ToSign, Away, Coming, With, Due) = (waits.ToSign, waits.Away, waits.Coming, [.. waits.With], waits.Due);
    }
}

/// <summary>Of which state of the shop an answer is: grows when settings, instruments or causes of the shop change. One row.</summary>
public sealed class ShopState
{
    public const int TheOne = 1;

    public int Id { get; set; } = TheOne;

    public long Revision { get; set; }
}

/// <summary>Revision of a case, and how often its numbering was changed.</summary>
/// <param name="Lengths">Unit in which lengths of the engine are told; null takes the shop's.</param>
public sealed record CaseStamp(long Revision, int Numbering, LengthUnit? Lengths = null);

/// <summary>What the address of a request names is not there.</summary>
/// <param name="what">Id of what it is called.</param>
public sealed class NotHereException(string what) : Exception($"There is no such {what}.")
{
    public string What { get; } = what;
}

/// <summary>
/// A screen that was opened before the numbering of a case changed would write to the wrong parts. It sends how many changes of numbering it
/// knows of; a write that knows of another number is refused, under the lock of the case.
/// </summary>
public static class KnownNumbering
{
    public static Problem Changed => Problem.Of("numbering", "server.numbering-engine-changed-meanwhile-so");

    /// <param name="known">What the screen knows of; null where none is told.</param>
    public static void Check(int? known, int standing)
    {
        if (known is { } number && number != standing)
        {
            throw new ProblemException(Changed);
        }
    }
}

using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Strip;

/// <summary>How far a section of the strip has come.</summary>
public enum SectionState
{
    /// <summary>Nothing of it is done.</summary>
    Ahead,

    Working,

    /// <summary>Its hold point is done and not signed.</summary>
    Waiting,

    /// <summary>Who signs has sent it back, and it was not asked for again.</summary>
    SentBack,

    Signed,

    /// <summary>All of it is done, and it ends in no hold point.</summary>
    Done,
}

/// <summary>The steps up to a hold point: what is worked, checked and signed together.</summary>
/// <param name="Id">Id of the hold point; <see cref="HoldSections.Rest"/> of what comes after the last.</param>
/// <param name="Hold">Null of what comes after the last.</param>
public sealed record HoldSection(string Id, Fact Name, StripStep? Hold, IReadOnlyList<StripStep> Steps);

/// <summary>How a hold point stands.</summary>
/// <param name="Since">Since when it waits or was sent back, or when it was signed; null otherwise.</param>
/// <param name="By">Who signed it or sent it back; empty otherwise.</param>
/// <param name="Note">The word with which it was signed, sent back, or asked for again.</param>
/// <param name="LookedBy">Whose second look holds; empty where there is none.</param>
public sealed record HoldNow(SectionState State, DateTimeOffset? Since, string By, string Note, string LookedBy)
{
    internal static HoldNow Ahead { get; } = new(SectionState.Ahead, null, "", "", "");
}

/// <summary>How a section stands.</summary>
/// <param name="Done">Steps of it that are done or were found done.</param>
/// <param name="Skipped">Names of those that were left out.</param>
/// <param name="Since">Since when it waits or was sent back, or when it was signed; null otherwise.</param>
/// <param name="By">Who signed it or sent it back; empty otherwise.</param>
/// <param name="Note">The word with which it was sent back, or asked for again.</param>
/// <param name="LookedBy">Whose second look holds; empty where there is none.</param>
/// <param name="SentBack">How many times it was sent back.</param>
public sealed record SectionStanding(
    string Id,
    Fact Name,
    SectionState State,
    int Steps,
    int Done,
    IReadOnlyList<string> Skipped,
    DateTimeOffset? Since,
    string By,
    string Note,
    string LookedBy,
    int SentBack
);

/// <summary>The strip in sections, each up to a hold point.</summary>
public static class HoldSections
{
    /// <summary>Id of the section after the last hold point.</summary>
    public const string Rest = "rest";

    /// <summary>The sections in the order of the script. What is not to be done in this strip is in none.</summary>
    public static IReadOnlyList<HoldSection> Of(StripBook book)
    {
        var later = book.Sorted().Later.Select(s => s.Id).ToHashSet(StringComparer.Ordinal);
        var sections = new List<HoldSection>();
        var steps = new List<StripStep>();
        foreach (var step in book.Steps.Where(s => !later.Contains(s.Id)))
        {
            steps.Add(step);
            if (step.HoldPoint)
            {
                sections.Add(new HoldSection(step.Id, Fact.Text(step.Name), step, steps));
                steps = [];
            }
        }

        if (steps.Count > 0)
        {
            sections.Add(new HoldSection(Rest, Fact.Of("strip.section-rest"), null, steps));
        }

        return sections;
    }

    public static SectionStanding StandingOf(HoldSection section, StripBook book)
    {
        var standing = section.Steps.Select(s => book.Standing(s.Id)).ToArray();
        var done = standing.Count(s => s.State is StepState.Done or StepState.WasOff);
        var skipped = section.Steps.Where(s => book.Standing(s.Id).State == StepState.Skipped).Select(s => s.Name).ToArray();
        var begun = Array.Exists(standing, s => s.Records.Count > 0);
        var now = section.Hold is { } hold ? Now(hold, book) : HoldNow.Ahead;
        var state = now.State;
        if (state == SectionState.Ahead && begun)
        {
            state = section.Hold is null && done + skipped.Length == section.Steps.Count ? SectionState.Done : SectionState.Working;
        }

        return new SectionStanding(
            section.Id,
            section.Name,
            state,
            section.Steps.Count,
            done,
            skipped,
            now.Since,
            now.By,
            now.Note,
            now.LookedBy,
            section.Hold is null ? 0 : book.ActsAt(section.Id).Count(a => a.Outcome == SignOutcome.SentBack)
        );
    }

    /// <summary>How a hold point stands. It is ahead until something of it is done.</summary>
    public static HoldNow Now(StripStep hold, StripBook book)
    {
        if (book.SignatureOf(hold.Id) is { } signed)
        {
            return new HoldNow(SectionState.Signed, signed.At, signed.By, signed.Note, book.SecondLookAt(hold.Id)?.By ?? "");
        }

        if (!book.Standing(hold.Id).Begun)
        {
            return HoldNow.Ahead;
        }

        var recorded = book.Latest(hold);
        var act = book.ActsAt(hold.Id).LastOrDefault(a => !a.Imported && a.Outcome is SignOutcome.SentBack or SignOutcome.Asked);
        var looked = book.SecondLookAt(hold.Id)?.By ?? "";
        return act switch
        {
            { Outcome: SignOutcome.SentBack } when act.At >= recorded => new HoldNow(SectionState.SentBack, act.At, act.By, act.Note, looked),
            { Outcome: SignOutcome.Asked } when act.At > recorded => new HoldNow(SectionState.Waiting, act.At, "", act.Note, looked),
            _ => new HoldNow(SectionState.Waiting, recorded, "", "", looked),
        };
    }
}

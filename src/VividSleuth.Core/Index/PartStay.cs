namespace VividSleuth.Core.Index;

/// <summary>Where a part was, from then on.</summary>
public sealed record PartStay(
    DateTimeOffset At,
    string By,
    string Place,
    string Mark,
    Custody Custody,
    string Where,
    DateOnly? Sent,
    DateOnly? DueBack
)
{
    /// <summary>Where a part has been, the first first; what changed nothing of that is left out.</summary>
    /// <param name="states">The part as it was after each change, in the order of the changes.</param>
    public static IReadOnlyList<PartStay> Of(IEnumerable<Part> states)
    {
        var stays = new List<PartStay>();
        foreach (var s in states)
        {
            var stay = new PartStay(s.At, s.By, s.Place, s.Mark, s.Custody, s.Where, s.Sent, s.DueBack);
            if (stays.Count == 0 || stays[^1] with { At = stay.At, By = stay.By } != stay)
            {
                stays.Add(stay);
            }
        }

        return stays;
    }
}

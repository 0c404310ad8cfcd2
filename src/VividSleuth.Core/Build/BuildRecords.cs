using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Build;

/// <summary>What a task is, and where it comes from.</summary>
public enum TaskKind
{
    /// <summary>A step of the strip that is left.</summary>
    Strip,

    /// <summary>What must be looked at before a step spoils it.</summary>
    Look,

    /// <summary>A round that is due.</summary>
    Measure,

    /// <summary>What is decided together, and is not decided.</summary>
    Decide,

    /// <summary>Work of the shop’s own that a verdict asks for.</summary>
    Work,

    /// <summary>A line of the order that is to be sent.</summary>
    Send,

    /// <summary>What is to come from somebody else: a parcel, a part that is away.</summary>
    Away,

    /// <summary>What came, and is to be looked at and measured before it is let in.</summary>
    Check,

    /// <summary>A step of the way back.</summary>
    Back,

    /// <summary>The first run.</summary>
    Run,

    /// <summary>What is due some hours or days after it ran: retorque, first oil.</summary>
    FollowUp,

    /// <summary>One that somebody added.</summary>
    Own,

    /// <summary>The owner’s answer.</summary>
    Owner,

    /// <summary>A second pair of hands.</summary>
    Helper,

    /// <summary>A tool, a bottle, a hired crane.</summary>
    Tool,

    /// <summary>A signature.</summary>
    Signature,

    /// <summary>Left undone on purpose until something comes.</summary>
    OnPurpose,
}

public enum TaskMark
{
    Open,

    /// <summary>Somebody is at it.</summary>
    Begun,
    Through,

    /// <summary>Not done at all: nothing waits for it any more.</summary>
    LeftOut,
}

/// <summary>A task of the shop's own, a wait, or what is another with one that arises by itself. The latest for a key counts.</summary>
public sealed class BuildTask : CaseRecord
{
    /// <summary>Key of the task that arises by itself and that this changes; empty of one of the shop’s own.</summary>
    public string Of { get; set; } = "";

    public TaskKind Kind { get; set; } = TaskKind.Own;

    public string Name { get; set; } = "";

    /// <summary>Hours of work; of one that goes on by itself, hours that pass. Null takes what is told elsewhere.</summary>
    public decimal? Least { get; set; }

    /// <inheritdoc cref="Least"/>
    public decimal? Likely { get; set; }

    /// <inheritdoc cref="Least"/>
    public decimal? Most { get; set; }

    /// <summary>Pairs of hands that it keeps busy; null takes what is told elsewhere.</summary>
    public int? Hands { get; set; }

    /// <summary>Tools of the shop that it keeps busy, by name.</summary>
    public List<string> Tools { get; set; } = [];

    /// <summary>Keys of tasks that it waits for besides.</summary>
    public List<string> After { get; set; } = [];

    /// <summary>Keys of tasks that wait for it.</summary>
    public List<string> Holds { get; set; } = [];

    /// <summary>It is not begun before this day.</summary>
    public DateOnly? NotBefore { get; set; }

    /// <summary>Of a wait: the day that was named for it.</summary>
    public DateOnly? Expected { get; set; }

    /// <summary>It goes on by itself, by night too: a coating that cures.</summary>
    public bool ByItself { get; set; }

    /// <summary>Only on a dry day: power washing, paint.</summary>
    public bool Dry { get; set; }

    /// <summary>Only where it stays warmer than so many °C, by the maker’s sheet of what is put on; null where it does not matter.</summary>
    public decimal? WarmerThan { get; set; }

    public TaskMark Mark { get; set; }

    public string Note { get; set; } = "";

    /// <summary>Under this name it stands in a plan.</summary>
    public string Key() => Of.Length > 0 ? Of : $"own/{Id:N}";

    /// <summary>Gives the records that its keys name other ids.</summary>
    public void Renew(Func<Guid, Guid> fresh)
    {
        Of = Key(Of);
        After = [.. After.Select(Key)];
        Holds = [.. Holds.Select(Key)];

        string Key(string key)
        {
            var at = key.LastIndexOf('/') + 1;
            return Guid.TryParseExact(key[at..], "N", out var id) ? key[..at] + fresh(id).ToString("N") : key;
        }
    }

    /// <summary>Of each key the record that counts: the last one written, of those not taken back.</summary>
    public static IReadOnlyDictionary<string, BuildTask> Latest(IEnumerable<BuildTask> all) =>
        all.Where(t => t.Stands())
            .GroupBy(t => t.Key(), StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.OrderBy(t => t.At).ThenBy(t => t.Id).Last(), StringComparer.Ordinal);
}

/// <summary>A day on which somebody was told that it runs again. The latest counts.</summary>
public sealed class BuildPromise : CaseRecord
{
    public DateOnly Day { get; set; }

    /// <summary>To whom it was promised.</summary>
    public string To { get; set; } = "";

    public string Note { get; set; } = "";
}

/// <summary>What Build goes by, besides the answers of the other rooms.</summary>
/// <param name="Assembly">What assembly adds for this engine.</param>
public sealed record BuildLog(
    IReadOnlyList<BuildTask> Tasks,
    IReadOnlyList<BackAct> Acts,
    IReadOnlyList<Tightening> Tightenings,
    IReadOnlyList<Part> Parts,
    IReadOnlyList<PartVerdict> Verdicts,
    IReadOnlyList<OrderLine> OrderLines,
    IReadOnlyList<FastenerMove> FastenerMoves,
    IReadOnlyList<Reading> Readings,
    IReadOnlyList<Limit> Limits,
    IReadOnlyList<Finding> Findings,
    IReadOnlyList<Debris> Debris,
    IReadOnlyList<AssemblyStep> Assembly
)
{
    /// <summary>Readings that count of what was worked on and put together, in the order in which they were taken.</summary>
    public IReadOnlyList<Reading> PutTogether { get; } = [.. GaugeLog.Active(Readings).Where(r => r.Phase == Phase.AfterWork)];

    /// <summary>Places of which somebody measured after work.</summary>
    public IReadOnlySet<string> MeasuredAfterWork { get; } =
        GaugeLog.Active(Readings).Where(r => r.Phase == Phase.AfterWork).Select(r => r.Place).ToHashSet(StringComparer.Ordinal);
}

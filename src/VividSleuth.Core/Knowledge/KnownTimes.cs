namespace VividSleuth.Core.Knowledge;

/// <summary>What a time is the time of.</summary>
public enum TimeOf
{
    /// <summary>A course at the shop's own bench, by its id.</summary>
    Course,

    /// <summary>Looking at places before a step spoils what they show.</summary>
    Look,

    /// <summary>Figures of a round.</summary>
    Measure,

    /// <summary>Deciding on what is decided together.</summary>
    Decide,

    /// <summary>Writing to whoever supplies or works on it, and packing what goes along.</summary>
    Send,

    /// <summary>What is with others, by who has it: machine-shop, specialist, supplier.</summary>
    Away,

    /// <summary>How much later than promised, by who promised.</summary>
    Late,

    /// <summary>Looking at and measuring what arrived.</summary>
    Check,

    /// <summary>Waiting for somebody or something: owner, helper, tool, signature, kit.</summary>
    Wait,

    /// <summary>A step of a script, as a share of what the script says.</summary>
    Script,

    /// <summary>Putting back what a step took off, as a share of what the script says of the step.</summary>
    Back,

    /// <summary>Start, tests and running in at the bench.</summary>
    Run,
}

public enum TimeUnit
{
    /// <summary>Hours of work.</summary>
    Hours,

    /// <summary>Days that pass, whoever works.</summary>
    Days,

    /// <summary>Shares of what is told elsewhere.</summary>
    Share,
}

/// <summary>How long things of a kind take, where nobody of the shop has clocked or said it: a rule of thumb.</summary>
public sealed class KnownTime : Known
{
    public TimeOf Of { get; set; }

    /// <summary>Which of its kind; empty where there is but one.</summary>
    public string Which { get; set; } = "";

    public TimeUnit Unit { get; set; }

    /// <summary>At the least, likely and at the most, however many there are.</summary>
    public List<double> Once { get; set; } = [];

    /// <summary>As <see cref="Once"/>, for each place or figure besides.</summary>
    public List<double> Each { get; set; } = [];
}

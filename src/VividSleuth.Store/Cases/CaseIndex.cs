using NpgsqlTypes;

namespace VividSleuth.Store.Cases;

/// <summary>
/// By what a case is found, kept beside its state as of one revision: all its words, and what was found, measured, concluded and by whom, by ids of the
/// knowledge. Derived; it can be thrown away and is worked out anew.
/// </summary>
public sealed class CaseIndex
{
    /// <summary>What stands behind it in a line of <see cref="Body"/> is another name for what stands before: it is found, and not shown.</summary>
    public const string Also = "‖";

    public Guid CaseId { get; set; }

    /// <summary>The revision of the case that it was worked out of.</summary>
    public long Revision { get; set; }

    /// <summary>All that is said of the case, a fact a line.</summary>
    public string Body { get; set; } = "";

    /// <summary>Stems of the words of <see cref="Body"/>, as the database keeps them.</summary>
    public NpgsqlTsVector Terms { get; set; } = null!;

    /// <summary>Ids of signs that were seen, whoever left them.</summary>
    public List<string> Signs { get; set; } = [];

    /// <summary>Ids of kinds of part on which something was seen.</summary>
    public List<string> Parts { get; set; } = [];

    /// <summary>Ids of what was measured as it came and is surely outside its limit.</summary>
    public List<string> Outside { get; set; } = [];

    /// <summary>Ids of the causes that somebody wrote down as found.</summary>
    public List<string> Causes { get; set; } = [];

    /// <summary>Who wrote in it.</summary>
    public List<string> People { get; set; } = [];

    /// <summary>Sign, kind of part and spread of what was seen as it came: “overlay-wiped@shell-upper#one”.</summary>
    public List<string> Present { get; set; } = [];

    /// <summary>Sign and kind of part of what somebody looked for.</summary>
    public List<string> LookedFor { get; set; } = [];
}

/// <summary>A word that stands in some case: what a misspelt one is held against.</summary>
public sealed class CaseWord
{
    public string Word { get; set; } = "";
}

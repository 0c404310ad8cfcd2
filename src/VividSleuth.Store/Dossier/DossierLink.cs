using VividSleuth.Core;
using VividSleuth.Core.Dossier;

namespace VividSleuth.Store.Dossier;

/// <summary>An address at which one dossier of one case may be read without signing in, until its end or until it is shut.</summary>
public sealed class DossierLink : IShopRecord
{
    public Guid Id { get; set; }

    public Guid CaseId { get; set; }

    public DossierKind Kind { get; set; }

    /// <summary>Who it is for, in the shop’s words.</summary>
    public string For { get; set; } = "";

    /// <summary>From then on it answers no more.</summary>
    public DateTimeOffset Until { get; set; }

    public bool LeaveOutNames { get; set; }

    /// <summary>Whoever has it may approve or refuse an option.</summary>
    public bool MayAnswer { get; set; }

    public int Version { get; set; }

    public DateTimeOffset At { get; set; }

    public string By { get; set; } = "";

    public DateTimeOffset? WithdrawnAt { get; set; }

    public string? WithdrawnBy { get; set; }
}

/// <summary>That somebody read a dossier through a link.</summary>
public sealed class LinkView
{
    public long Id { get; set; }

    public Guid LinkId { get; set; }

    public DateTimeOffset At { get; set; }

    /// <summary>What was fetched: the page, the PDF, or the page as a file.</summary>
    public string What { get; set; } = "";

    /// <summary>Address that it was fetched from.</summary>
    public string From { get; set; } = "";
}

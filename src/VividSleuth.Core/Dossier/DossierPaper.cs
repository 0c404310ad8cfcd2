using VividSleuth.Core.Look;

namespace VividSleuth.Core.Dossier;

/// <summary>Who a dossier is for. An order of a machine shop is a paper of Verdict.</summary>
public enum DossierKind
{
    /// <summary>The customer: what failed, why, what is done about it and what it costs, in plain words.</summary>
    Customer,

    /// <summary>An insurer, a warranty desk, an expert: all of it, each figure back to its readings.</summary>
    Examiner,

    /// <summary>The shop’s own next engine of the kind: lessons, traps, sizes.</summary>
    Own,

    /// <summary>A class: what was done, signed and found, beside what the computation found.</summary>
    Class,
}

/// <summary>What somebody wants of a dossier.</summary>
/// <param name="Pictures">Photographs in the order in which they stand; null takes those that show most.</param>
/// <param name="LeaveOutNames">People are told by a letter, the same person by the same one, and the paper says so.</param>
public sealed record DossierWish(DossierKind Kind, IReadOnlyList<Guid>? Pictures = null, bool LeaveOutNames = false);

/// <summary>A piece of a dossier, one under the other.</summary>
public abstract record DossierBlock;

/// <param name="Level">1 is a chapter, 2 what stands in one.</param>
public sealed record DossierHeading(int Level, Fact Text) : DossierBlock;

/// <param name="Strong">What must not be overlooked.</param>
public sealed record DossierText(Fact Text, bool Strong = false) : DossierBlock;

public sealed record DossierList(IReadOnlyList<Fact> Items) : DossierBlock;

/// <param name="Width">Share of the width of the paper; together 1.</param>
/// <param name="Figures">Its digits stand under each other.</param>
public sealed record DossierColumn(Fact Name, double Width, bool Figures = false);

/// <param name="Mark">Under which another place of the paper points to it, such as F12; empty where none does.</param>
/// <param name="To">Mark of the row in which its origin is told; empty where there is none.</param>
public sealed record DossierRow(IReadOnlyList<Fact> Cells, string Mark = "", string To = "");

public sealed record DossierTable(IReadOnlyList<DossierColumn> Columns, IReadOnlyList<DossierRow> Rows) : DossierBlock;

/// <summary>A photograph with its marks drawn in.</summary>
/// <param name="Alternative">What it shows, for whoever cannot see it.</param>
public sealed record DossierPicture(Photo Photo, IReadOnlyList<PhotoMark> Marks, Fact Caption, Fact Alternative);

/// <summary>Photographs side by side.</summary>
public sealed record DossierPictures(IReadOnlyList<DossierPicture> Pictures) : DossierBlock;

/// <summary>A dossier as it is told, before it is a page of a screen or of paper.</summary>
/// <param name="Day">When it was drawn up.</param>
public sealed record DossierPaper(DossierKind Kind, Fact Title, Fact Under, DateOnly Day, IReadOnlyList<DossierBlock> Blocks);

using VividSleuth.Core.Arrival;
using VividSleuth.Core.Build;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Dossier;

/// <summary>What stands on the plate and was told on arrival.</summary>
/// <param name="Hours">Run in all; null where nobody noted them.</param>
public sealed record DossierEngine(string Title, string Name, string Serial, decimal? Hours, string Owner, string Complaint, string Past);

/// <summary>What a dossier is written from: the record, and what the rooms answered.</summary>
/// <param name="Instruments">Of the shop, those that were read with.</param>
/// <param name="Lessons">What the shop learned on engines of the kind, newest first.</param>
/// <param name="Stays">By part where it has been, the first stay first.</param>
/// <param name="Earlier">Earlier cases of the same engine and of its kind, the newest first.</param>
/// <param name="Build">When it runs again; null where it is not asked.</param>
public sealed record DossierMatter(
    DossierEngine Engine,
    AddressTable Table,
    KnowledgeBase Knowledge,
    IReadOnlyList<Finding> Findings,
    IReadOnlyList<Photo> Photos,
    IReadOnlyList<PhotoMark> Marks,
    IReadOnlyList<PictureMeasure> PictureMeasures,
    IReadOnlyList<Sound> Sounds,
    IReadOnlyList<Debris> Debris,
    IReadOnlyList<Examination> Examinations,
    IReadOnlyList<Reading> Readings,
    IReadOnlyList<Part> Parts,
    IReadOnlyList<Stow> Stows,
    IReadOnlyList<StepRecord> Steps,
    IReadOnlyList<PartVerdict> Verdicts,
    IReadOnlyList<Conclusion> Conclusions,
    IReadOnlyList<BackAct> Acts,
    IReadOnlyList<Instrument> Instruments,
    IReadOnlyList<string> Lessons,
    IReadOnlyDictionary<Guid, IReadOnlyList<PartStay>> Stays,
    IReadOnlyList<EarlierCase> Earlier,
    StripPlan Strip,
    GaugeSheet Gauge,
    IReadOnlyList<Fact> Compression,
    TraceAnswer Trace,
    IReadOnlyList<OptionTable> Options,
    OrderBoard Order,
    BuildPlan? Build,
    DateOnly Today
);

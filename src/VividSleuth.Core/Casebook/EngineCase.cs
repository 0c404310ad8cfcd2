using VividSleuth.Core.Arrival;
using VividSleuth.Core.Build;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Casebook;

/// <summary>One engine on the bench, from arrival to dossier.</summary>
public sealed class EngineCase : CaseRecord
{
    public string Title { get; set; } = "";

    public string Owner { get; set; } = "";

    public string EngineName { get; set; } = "";

    public string Serial { get; set; } = "";

    /// <summary>What stands before every mark and tag of this engine, so that one that strayed tells whose it is; empty where no other is near.</summary>
    public string Prefix { get; set; } = "";

    public decimal? Hours { get; set; }

    public required EngineLayout Layout { get; set; }

    /// <summary>Why it is here, in the customer's words.</summary>
    public string Complaint { get; set; } = "";

    /// <summary>What is known of its past, as told.</summary>
    public string Past { get; set; } = "";

    /// <summary>Answers to the risks of the knowledge base (rebuilt lately, wrong oil …): id → said to be so or not.</summary>
    public Dictionary<string, bool> Risks { get; set; } = [];

    /// <summary>Id of the strip script; empty takes the one that fits the layout best.</summary>
    public string Script { get; set; } = "";

    /// <summary>Ids of the script's variants that were chosen.</summary>
    public List<string> Variants { get; set; } = [];

    /// <summary>Piston stroke in mm, for the crank help; null when nobody entered it.</summary>
    public decimal? Stroke { get; set; }

    /// <summary>Length of the rods between centres in mm.</summary>
    public decimal? RodLength { get; set; }

    /// <summary>The kind of engine whose figures were taken over; null where none was.</summary>
    public Guid? KindId { get; set; }

    /// <summary>The version of the kind that it was judged by.</summary>
    public int KindVersion { get; set; }

    /// <summary>The case after which this engine came back; null where it did not.</summary>
    public Guid? ComebackOf { get; set; }

    /// <summary>Unit in which lengths of this engine are told; null takes the shop's.</summary>
    public LengthUnit? Lengths { get; set; }

    /// <summary>The case this one was read from, when it came as a file.</summary>
    public Guid? ImportedFrom { get; set; }

    /// <summary>The sealed bag that it came in, and the SHA-256 of the key that had signed it; empty where it came in none.</summary>
    public string ImportedBag { get; set; } = "";

    public List<Candidate> Candidates { get; set; } = [];

    public List<Part> Parts { get; set; } = [];

    public List<Stow> Stows { get; set; } = [];

    public List<StepRecord> Steps { get; set; } = [];

    public List<OwnStep> OwnSteps { get; set; } = [];

    public List<StepMark> StepMarks { get; set; } = [];

    public List<FastenerMove> FastenerMoves { get; set; } = [];

    public List<SignOff> SignOffs { get; set; } = [];

    public List<Renumbering> Renumberings { get; set; } = [];

    public List<Finding> Findings { get; set; } = [];

    public List<Photo> Photos { get; set; } = [];

    public List<PhotoMark> PhotoMarks { get; set; } = [];

    public List<PictureMeasure> PictureMeasures { get; set; } = [];

    public List<Sound> Sounds { get; set; } = [];

    public List<Debris> Debris { get; set; } = [];

    public List<Reading> Readings { get; set; } = [];

    public List<Limit> Limits { get; set; } = [];

    public List<ServiceSizes> Sizes { get; set; } = [];

    public List<Examination> Examinations { get; set; } = [];

    public List<PartVerdict> Verdicts { get; set; } = [];

    public List<RepairOption> Options { get; set; } = [];

    public List<OptionChoice> Choices { get; set; } = [];

    public List<OptionAnswer> OptionAnswers { get; set; } = [];

    public List<OrderLine> OrderLines { get; set; } = [];

    public List<OrderMove> OrderMoves { get; set; } = [];

    public List<SupplyOffer> Offers { get; set; } = [];

    public List<Conclusion> Conclusions { get; set; } = [];

    public List<BuildTask> BuildTasks { get; set; } = [];

    public List<BuildPromise> BuildPromises { get; set; } = [];

    public List<BackAct> BackActs { get; set; } = [];

    public List<Tightening> Tightenings { get; set; } = [];

    /// <summary>All that was entered into the case, without the case's own sheet.</summary>
    public IEnumerable<CaseRecord> Records() =>
        [
            .. Candidates,
            .. Parts,
            .. Stows,
            .. Steps,
            .. OwnSteps,
            .. StepMarks,
            .. FastenerMoves,
            .. SignOffs,
            .. Renumberings,
            .. Findings,
            .. Photos,
            .. PhotoMarks,
            .. PictureMeasures,
            .. Sounds,
            .. Debris,
            .. Readings,
            .. Limits,
            .. Sizes,
            .. Examinations,
            .. Verdicts,
            .. Options,
            .. Choices,
            .. OptionAnswers,
            .. OrderLines,
            .. OrderMoves,
            .. Offers,
            .. Conclusions,
            .. BuildTasks,
            .. BuildPromises,
            .. BackActs,
            .. Tightenings,
        ];

    /// <summary>
    /// The case as it is with one record added or changed; this one stays as it is. Null for the case's own sheet, which is no record of a list.
    /// </summary>
    public EngineCase? With(CaseRecord record)
    {
        var after = (EngineCase)MemberwiseClone();
        switch (record)
        {
            case Candidate r:
                after.Candidates = Put(Candidates, r);
                break;
            case Stow r:
                after.Stows = Put(Stows, r);
                break;
            case Part r:
                after.Parts = Put(Parts, r);
                break;
            case StepRecord r:
                after.Steps = Put(Steps, r);
                break;
            case OwnStep r:
                after.OwnSteps = Put(OwnSteps, r);
                break;
            case StepMark r:
                after.StepMarks = Put(StepMarks, r);
                break;
            case FastenerMove r:
                after.FastenerMoves = Put(FastenerMoves, r);
                break;
            case SignOff r:
                after.SignOffs = Put(SignOffs, r);
                break;
            case Finding r:
                after.Findings = Put(Findings, r);
                break;
            case Photo r:
                after.Photos = Put(Photos, r);
                break;
            case PhotoMark r:
                after.PhotoMarks = Put(PhotoMarks, r);
                break;
            case PictureMeasure r:
                after.PictureMeasures = Put(PictureMeasures, r);
                break;
            case Sound r:
                after.Sounds = Put(Sounds, r);
                break;
            case Debris r:
                after.Debris = Put(Debris, r);
                break;
            case Reading r:
                after.Readings = Put(Readings, r);
                break;
            case Limit r:
                after.Limits = Put(Limits, r);
                break;
            case ServiceSizes r:
                after.Sizes = Put(Sizes, r);
                break;
            case Examination r:
                after.Examinations = Put(Examinations, r);
                break;
            case PartVerdict r:
                after.Verdicts = Put(Verdicts, r);
                break;
            case RepairOption r:
                after.Options = Put(Options, r);
                break;
            case OptionChoice r:
                after.Choices = Put(Choices, r);
                break;
            case OptionAnswer r:
                after.OptionAnswers = Put(OptionAnswers, r);
                break;
            case OrderLine r:
                after.OrderLines = Put(OrderLines, r);
                break;
            case OrderMove r:
                after.OrderMoves = Put(OrderMoves, r);
                break;
            case SupplyOffer r:
                after.Offers = Put(Offers, r);
                break;
            case Conclusion r:
                after.Conclusions = Put(Conclusions, r);
                break;
            case BuildTask r:
                after.BuildTasks = Put(BuildTasks, r);
                break;
            case BuildPromise r:
                after.BuildPromises = Put(BuildPromises, r);
                break;
            case BackAct r:
                after.BackActs = Put(BackActs, r);
                break;
            case Tightening r:
                after.Tightenings = Put(Tightenings, r);
                break;
            default:
                return null;
        }

        return after;

        // In the order of ids, as a case is read.
        static List<T> Put<T>(List<T> records, T record)
            where T : CaseRecord => [.. records.Where(r => r.Id != record.Id).Append(record).OrderBy(r => r.Id)];
    }

    /// <summary>Places of the engine and of its candidates.</summary>
    /// <param name="with">Letter of the candidate that is thought into the engine; empty for the engine as it is.</param>
    public AddressTable Places(string with = "") => new(Engine.From(Layout), Candidates, with);

    /// <summary>The case with nothing in it but what was recorded at places of the table: of candidates only the one that is thought into the engine.</summary>
    public EngineCase Within(AddressTable table)
    {
        if (Candidates.Count == 0)
        {
            return this;
        }

        var here = (EngineCase)MemberwiseClone();
        here.Parts = [.. Parts.Where(p => table.Has(p.Place))];
        here.Findings = [.. Findings.Where(f => table.Has(f.Place))];
        here.Photos = [.. Photos.Where(p => table.Has(p.Place))];
        here.Debris = [.. Debris.Where(d => table.Has(d.Place))];
        here.Readings = [.. Readings.Where(r => table.Has(r.Place))];
        here.Verdicts = [.. Verdicts.Where(v => table.Has(v.Place))];
        here.Examinations = [.. Examinations.Where(e => table.Has(e.Place))];
        return here;
    }

    /// <summary>What Build goes by.</summary>
    /// <param name="assembly">What assembly adds for this engine.</param>
    public BuildLog BuildLog(IReadOnlyList<AssemblyStep> assembly) =>
        new(BuildTasks, BackActs, Tightenings, Parts, Verdicts, OrderLines, FastenerMoves, Readings, Limits, Findings, Debris, assembly);

    /// <summary>What Strip goes by.</summary>
    public StripLog StripLog() =>
        new(
            Layout,
            EngineName,
            Script,
            Variants,
            Stroke,
            RodLength,
            Steps,
            OwnSteps,
            StepMarks,
            FastenerMoves,
            SignOffs,
            Findings.Where(f => f.Stands()).Select(f => (f.Place, f.Sign)).ToHashSet()
        );

    /// <summary>What Look goes by.</summary>
    public LookLog LookLog() => new(Findings, Photos, Debris);

    /// <summary>What Gauge goes by.</summary>
    public GaugeLog GaugeLog() => new(Readings, Limits, Parts, Sizes, Stroke, RodLength);

    /// <summary>What Trace goes by.</summary>
    public TraceLog TraceLog() => new([.. Findings.Where(f => f.IsEvidence)], Risks) { Hours = (double?)Hours };

    /// <summary>What Verdict goes by.</summary>
    public VerdictLog VerdictLog() => new(Parts, Findings, Verdicts, Readings, Limits, Sizes, Examinations, Conclusions, Risks);

    /// <summary>What the order goes by.</summary>
    public OrderLog OrderLog() => new(EngineName, OrderLines, OrderMoves, Offers, Candidates, VerdictLog());

    /// <summary>What closed cases are learned from.</summary>
    public Outcome Outcome() => new(Layout, [.. Findings.Where(f => f.IsEvidence && !Address.IsCandidate(f.Place))], Conclusions, EngineName);
}

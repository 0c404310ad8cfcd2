using VividSleuth.Core.Index;
using VividSleuth.Core.Knowledge;

namespace VividSleuth.Core.Gauge;

public enum SecondGap
{
    /// <summary>Pressure must not build between the rings: the second gap is not smaller than the first.</summary>
    NotSmaller,

    /// <summary>The older school: the second runs cooler and may be closer.</summary>
    MayBeSmaller,
}

/// <summary>What is done about an inner ring that has lost its grip on the shaft.</summary>
public enum LooseRing
{
    /// <summary>The seat is gone: another shaft.</summary>
    NewShaft,

    /// <summary>The seat is turned true and sleeved.</summary>
    Sleeve,

    /// <summary>A retaining compound holds it, for a time that nobody can tell.</summary>
    Compound,
}

/// <summary>What is done about a lobe that is gone.</summary>
public enum WornLobe
{
    RenewShaft,
    WeldAndGrind,
}

/// <summary>How many rings run on a ported two-stroke that was made with two.</summary>
public enum PortedRings
{
    AsMade,

    /// <summary>The second groove stays empty.</summary>
    One,
}

/// <summary>What is done with rings that came off whole.</summary>
public enum UsedRings
{
    /// <summary>New ones, always.</summary>
    Renew,

    /// <summary>Back into their own bore while they never seated, or lie flat with gap and tension right.</summary>
    ReuseWhenSound,
}

/// <summary>When parts are ordered.</summary>
public enum Ordering
{
    /// <summary>Nothing is ordered before every gate is open.</summary>
    HoldAll,

    /// <summary>What is sure to be needed is ordered early, with the risk named for each gate that is shut.</summary>
    EarlyAtARisk,
}

public enum Honing
{
    /// <summary>Rigid hone: cuts round and straight, and takes more to clean up.</summary>
    Rigid,

    /// <summary>Ball hone: follows the bore as it is; for glaze only, it does not mend shape.</summary>
    Ball,
}

/// <summary>Where a journal is ground or a bore is bored.</summary>
public enum Centres
{
    /// <summary>On the centres it was made on: what wore off one side must come off the other too.</summary>
    Original,

    /// <summary>Following the wear: less comes off, and the throw or the place of the bore moves with it.</summary>
    Shifted,
}

/// <summary>Where practitioners disagree: how this shop does it.</summary>
public sealed record Schools
{
    public static Schools Usual { get; } = new();

    public SecondGap SecondGap { get; init; } = SecondGap.NotSmaller;

    public Honing Honing { get; init; } = Honing.Rigid;

    public RingUse RingUse { get; init; } = RingUse.Ordinary;

    /// <summary>True where the ridge is cut before the pistons are pushed out, so that bores are measured below it only.</summary>
    public bool CutRidge { get; init; } = true;

    /// <summary>False where a part that is replaced anyway is not measured: the round leaves it out, and says so.</summary>
    public bool MeasureReplaced { get; init; } = true;

    public StepSystem Steps { get; init; } = StepSystem.Both;

    /// <summary>What grinding takes at least on the diameter of a journal beyond the deepest wear, mm. Rule of thumb.</summary>
    public decimal GrindingAllowance { get; init; } = 0.05m;

    /// <summary>What boring and honing take at least on the diameter of a bore beyond the deepest wear, mm. Rule of thumb.</summary>
    public decimal BoringAllowance { get; init; } = 0.10m;

    /// <summary>Where the machine shop sets up: on the old centres, or following the wear.</summary>
    public Centres Centres { get; init; } = Centres.Original;

    /// <summary>What skimming takes at least from a face beyond what is out of flat and eaten, mm. Rule of thumb.</summary>
    public decimal SkimAllowance { get; init; } = 0.05m;

    public LooseRing LooseRing { get; init; } = LooseRing.NewShaft;

    public WornLobe WornLobe { get; init; } = WornLobe.RenewShaft;

    public UsedRings UsedRings { get; init; } = UsedRings.Renew;

    public PortedRings PortedRings { get; init; } = PortedRings.AsMade;

    public Ordering Ordering { get; init; } = Ordering.HoldAll;

    /// <summary>What is done with parts that are alike.</summary>
    public Mixing Mixing { get; init; } = Mixing.AlikeMayMix;

    /// <summary>What is tightened is gone over by a second person, who signs for it.</summary>
    public bool TwoPeople { get; init; }

    public RunningIn RunningIn { get; init; } = RunningIn.LoadEarly;

    /// <summary>How far parts and instruments are taken to be from 20 °C where nobody looked, ± K.</summary>
    public double RoomSpan { get; init; } = 5;

    /// <summary>What the shop took over from its closed cases of how kinds of engines fail.</summary>
    public IReadOnlyList<KindOdds> Odds { get; init; } = [];

    /// <summary>How the shop does one of these, by its name in the knowledge; null where there is no such question.</summary>
    public Enum? Says(string question) =>
        question switch
        {
            "second-gap" => SecondGap,
            "honing" => Honing,
            "centres" => Centres,
            "loose-ring" => LooseRing,
            "worn-lobe" => WornLobe,
            "used-rings" => UsedRings,
            _ => null,
        };

    public IEnumerable<Problem> Check()
    {
        if (GrindingAllowance is < 0 or > 1 || BoringAllowance is < 0 or > 2 || SkimAllowance is < 0 or > 1)
        {
            yield return Problem.Of("allowance", "gauge.allowance-lies-between-nothing-millimetre");
        }

        if (RoomSpan is not (>= 0 and <= 40))
        {
            yield return Problem.Of("roomSpan", "gauge.shop-not-far-from-c");
        }
    }
}

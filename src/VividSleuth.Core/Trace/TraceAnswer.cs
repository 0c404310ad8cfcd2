using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

public enum LinkStatus
{
    Ticked,
    Contradicted,
    Open,
}

/// <summary>A sign that a cause predicts at a place, and what is known of it.</summary>
/// <param name="Strength">Probability with which the cause brings it about.</param>
/// <param name="Seen">Null while nobody looked.</param>
public sealed record PredictedSign(string Sign, string Name, string Place, double Strength, Seen? Seen);

/// <summary>One link of the chain with how the evidence stands to it.</summary>
public sealed record TracedLink(string Says, LinkStatus Status, IReadOnlyList<PredictedSign> Signs);

/// <summary>What one recorded sign weighs for a hypothesis: decibans, 10 log₁₀ of the odds with it over the odds without it; 0 where its rivals leave it as often.</summary>
public sealed record EvidenceWeight(string Sign, string Name, string Place, Seen Seen, double Decibans, Fact Words);

/// <summary>A cause with a probability: a kind of another, what it brought about, or what brought it about.</summary>
public sealed record CauseShare(string Cause, string Name, string Place, double Probability);

/// <summary>A cause that is seen outright; what brought it about is what is ranked.</summary>
/// <param name="Sign">The sign at its seat that establishes it.</param>
/// <param name="There">Probability that it is there, as a root or because another brought it about.</param>
/// <param name="By">What may have brought it about.</param>
public sealed record EstablishedCause(
    string Cause,
    string Name,
    string Place,
    string Sign,
    string SignName,
    string SignPlace,
    Fact Words,
    double There,
    IReadOnlyList<CauseShare> By
);

/// <summary>A question about the past that nobody answered, worth asking because it costs a minute.</summary>
/// <param name="Bits">Expected information about the causes that lead.</param>
/// <param name="About">Name of the cause that the answer moves most.</param>
public sealed record RiskQuestion(string Risk, string Question, double Bits, string About, string AboutPlace, double Now, double IfSo, double IfNot);

/// <summary>A root cause at a place, ranked.</summary>
/// <param name="Place">Where its signs lie.</param>
/// <param name="Seat">The address by which the cause placed is known, whatever was found.</param>
/// <param name="Probability">That it is a root cause.</param>
/// <param name="Together">That it or another of the causes told with it is; by this they are ranked.</param>
/// <param name="KindOf">Name of the cause under which it is told with its kinds; empty where it has none.</param>
/// <param name="Lower">Least probability, with all that the search left out against it.</param>
/// <param name="Established">Its defining sign was seen at its seat.</param>
/// <param name="Kinds">The other kinds that have a share worth telling.</param>
/// <param name="Then">What followed from it.</param>
/// <param name="Trust">How much of what is told with such a probability was so (<see cref="Calibration"/>); null where that was not tried.</param>
/// <param name="Shop">True where the cause is the shop's own, or changed by it.</param>
public sealed record RankedHypothesis(
    string Cause,
    string Name,
    string Family,
    string Place,
    string Seat,
    double Probability,
    double Lower,
    double Upper,
    double Together,
    string KindOf,
    Fact? Trust,
    bool Established,
    IReadOnlyList<CauseShare> Kinds,
    IReadOnlyList<CauseShare> Then,
    IReadOnlyList<TracedLink> Chain,
    IReadOnlyList<EvidenceWeight> For,
    IReadOnlyList<EvidenceWeight> Against,
    string Prove,
    string Prevent,
    string Caution,
    string Provenance,
    bool Shop
);

/// <summary>Causes that hold together, with their share of all that was found.</summary>
public sealed record ScenarioShare(IReadOnlyList<Fact> Hypotheses, double Share);

/// <summary>
/// One sign that was found, and what of the likeliest scenario accounts for it: first damage is in the first link of a chain, what followed in
/// the later ones.
/// </summary>
/// <param name="By">Name of the cause that accounts for it best; empty where nothing of the scenario does.</param>
/// <param name="Link">Number of the link in that cause's chain, from 0; −1 where nothing accounts for it.</param>
/// <param name="Says">What happened there, in the cause's words.</param>
public sealed record DamageTold(string Sign, string Name, string Place, string By, string ByPlace, int Link, string Says, Fact Words);

/// <summary>A recorded sign on which the answer hangs: without it another cause would lead.</summary>
/// <param name="Then">Which would lead then, and where.</param>
public sealed record HangsOn(string Sign, string Name, string Place, Seen Seen, string Then, string ThenPlace, double Probability);

/// <summary>A sign worth looking for, with what it would do to the cause that it moves.</summary>
/// <param name="With">What it takes to look.</param>
/// <param name="Access">Minutes of work before it can be looked at.</param>
/// <param name="BitsPerMinute">Expected information per minute of looking and of getting there.</param>
/// <param name="About">Name of the cause: the leading one, or where that would hardly move the one that moves most.</param>
/// <param name="Now">Probability of that cause as it stands.</param>
/// <param name="IfPresent">Probability of that cause if the sign is found.</param>
/// <param name="IfAbsent">Probability of that cause if it is looked for and not there.</param>
/// <param name="LostNext">Name of the strip's next step where that destroys it; empty where it does not.</param>
public sealed record NextCheck(
    string Sign,
    string Name,
    string Place,
    string How,
    string With,
    double Minutes,
    double Access,
    double BitsPerMinute,
    string About,
    string AboutPlace,
    double Now,
    double IfPresent,
    double IfAbsent,
    bool Measured,
    IReadOnlyList<Knowledge.Act> DestroyedBy,
    string LostNext
);

/// <summary>The computation's answer for a case as it stands.</summary>
/// <param name="Damage">What was found, by what came first and what followed in the likeliest scenario.</param>
/// <param name="HangsOn">Signs without which another cause would lead; empty where the leader stands without any one of them.</param>
/// <param name="Ranking">Causes that something found speaks for, the likeliest first; empty while nothing does.</param>
/// <param name="NoneOfThese">Probability that no cause of the knowledge base is behind what was found.</param>
/// <param name="Unknown">Probability that something which the knowledge base does not know has a part in it, beside a known cause or alone.</param>
/// <param name="Established">Causes seen outright.</param>
/// <param name="Ask">Questions worth asking before looking.</param>
/// <param name="Assumed">What was taken for granted for lack of record.</param>
public sealed record TraceAnswer(
    IReadOnlyList<RankedHypothesis> Ranking,
    double NoneOfThese,
    double Unknown,
    IReadOnlyList<EstablishedCause> Established,
    IReadOnlyList<ScenarioShare> Scenarios,
    IReadOnlyList<DamageTold> Damage,
    IReadOnlyList<HangsOn> HangsOn,
    IReadOnlyList<NextCheck> NextChecks,
    IReadOnlyList<RiskQuestion> Ask,
    IReadOnlyList<Fact> Assumed,
    IReadOnlyList<Fact> Contradictions,
    int SignsRecorded
);

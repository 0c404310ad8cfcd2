using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Verdict;

/// <summary>Whether the gates of knowledge/gates stand open before what is ordered. Evidence opens one; a part that is renewed asks for none.</summary>
internal sealed class OrderGates(
    AddressTable table,
    KnowledgeBase knowledge,
    IReadOnlyList<Examination> examinations,
    IReadOnlyList<PartVerdict> verdicts,
    IReadOnlyList<MachiningPlan> plans,
    Cracks cracks
)
{
    private readonly IReadOnlyDictionary<(string Place, string Check), Examination> _tests = Examination.Last(examinations);
    private readonly IReadOnlyDictionary<string, PartVerdict> _decided = PartVerdict.Latest(verdicts);
    private readonly Dictionary<string, GateState> _states = new(StringComparer.Ordinal);

    /// <param name="kinds">What is bought or worked on.</param>
    public IReadOnlyList<GateState> Before(IReadOnlyCollection<string> kinds) =>
        [
            .. knowledge
                .Gates.Where(g => Asks(g) && kinds.Any(k => g.On.Contains(k) && !InsteadOf(g, k)))
                .Select(g => _states.TryGetValue(g.Id, out var known) ? known : _states[g.Id] = State(g)),
        ];

    /// <summary>The engine has what it asks about.</summary>
    private bool Asks(KnownGate gate) => gate.Of.Concat(gate.Decided).Any(k => table.OfKind(k).Any());

    private bool InsteadOf(KnownGate gate, string kind) =>
        gate.Unless.Length > 0 && knowledge.Gates.FirstOrDefault(g => g.Id == gate.Unless) is { } other && other.On.Contains(kind) && Asks(other);

    private GateState State(KnownGate gate)
    {
        var (stands, evidence) = gate.Tested.Count > 0 ? Tested(gate) : Decided(gate);
        return new GateState(gate.Id, gate.Name, stands, evidence, gate.Why);
    }

    private (GateStands, Fact) Tested(KnownGate gate)
    {
        var told = new List<Fact>();
        var stands = GateStands.Open;
        foreach (var place in gate.Of.SelectMany(table.OfKind))
        {
            if (IsRenewed(place))
            {
                told.Add(Fact.Of("verdict.order.gate-renewed", ("place", place.Code)));
                continue;
            }

            var tests = gate.Tested.Select(id => _tests.GetValueOrDefault((place.Code, id))).OfType<Examination>().ToArray();
            if (cracks.Condemns(place) is not null || Array.Find(tests, t => !t.Passed) is not null)
            {
                stands = GateStands.Failed;
                told.Add(Fact.Of("verdict.order.gate-failed", ("place", place.Code)));
            }
            else if (Array.Find(tests, t => t.Passed) is { } passed)
            {
                told.Add(
                    Fact.Of(
                        "verdict.order.gate-passed",
                        ("place", place.Code),
                        ("check", knowledge.Examination(passed.Check)?.Name ?? passed.Check),
                        ("by", passed.TestedBy),
                        ("remarks", passed.Remarks)
                    )
                );
            }
            else
            {
                stands = stands == GateStands.Failed ? stands : GateStands.Shut;
                told.Add(
                    Fact.Of(
                        "verdict.order.gate-untested",
                        ("place", place.Code),
                        ("checks", gate.Tested.Select(id => Fact.Text(knowledge.Examination(id)?.Name ?? id)).ToArray())
                    )
                );
            }
        }

        return (stands, Fact.All(told));
    }

    private (GateStands, Fact) Decided(KnownGate gate)
    {
        var open = new List<string>();
        var courses = new List<(string Kind, string Course)>();
        foreach (var place in gate.Decided.SelectMany(table.OfKind))
        {
            if (_decided.GetValueOrDefault(place.Code) is { Course.Length: > 0 } verdict)
            {
                courses.Add((place.Kind.Id, verdict.Course));
            }
            else if (!IsRenewed(place))
            {
                open.Add(place.Code);
            }
        }

        if (open.Count > 0)
        {
            return (GateStands.Shut, Fact.Of("verdict.order.gate-undecided", ("places", open)));
        }

        var told = new List<Fact>();
        foreach (var (kind, course) in courses.Distinct())
        {
            var plan = plans.FirstOrDefault(p => p.Kind == kind && p.Course == course);
            if (plan is { State: not PlanState.Size })
            {
                return (GateStands.Shut, Fact.Of("verdict.order.gate-no-size", ("name", plan.Name)));
            }

            if (plan is null && course == MachiningPlanner.SizingCourse(kind))
            {
                return (GateStands.Shut, Fact.Of("verdict.order.gate-not-measured", ("course", knowledge.Course(course)?.Name ?? course)));
            }

            told.Add(Fact.Of("verdict.order.gate-decided", ("course", knowledge.Course(course)?.Name ?? course), ("step", plan?.Step ?? "")));
        }

        return (GateStands.Open, told.Count > 0 ? Fact.All(told) : Fact.Of("verdict.order.gate-all-renewed"));
    }

    /// <summary>Somebody decided to renew it, or what it is on.</summary>
    private bool IsRenewed(Address place) =>
        _decided.GetValueOrDefault(place.Code)?.Action == VerdictAction.Replace
        || Carrier.Of(place, table).All(c => _decided.GetValueOrDefault(c.Code)?.Action == VerdictAction.Replace);
}

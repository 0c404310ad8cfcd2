using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>A failure as somebody outside the project would describe it.</summary>
public sealed class WrittenCase
{
    public string Id { get; set; } = "";

    /// <summary>The kind of work that describes it.</summary>
    public string Source { get; set; } = "";

    public string Engine { get; set; } = "";

    /// <summary>What was seen, as sign@place=level with 0 for looked for and not there.</summary>
    public string Seen { get; set; } = "";

    /// <summary>Answers to questions about the past; with ! a plain no.</summary>
    public string Told { get; set; } = "";

    /// <summary>The causes that are right; the first is the one to sign. A cause told within another counts by either name.</summary>
    public List<string> Causes { get; set; } = [];

    /// <summary>Where it is told to sit; empty where any place is right.</summary>
    public string At { get; set; } = "";
}

/// <summary>The written cases of tests/cases, and how the answer stands to them.</summary>
internal static class WrittenCases
{
    private static readonly EngineLayout Four = Start.InlineSix with { Cylinders = 4, FiringOrder = [1, 3, 4, 2] };

    private static readonly Dictionary<string, EngineLayout> Engines = new()
    {
        ["petrol-four"] = Four,
        ["petrol-four-injected"] = Four with { Fuel = FuelSystem.Injected, ValveGear = ValveGear.TwinOverhead, CamDrive = CamDrive.Chain },
        ["petrol-four-belt"] = Four with { Fuel = FuelSystem.Injected, ValveGear = ValveGear.Overhead, CamDrive = CamDrive.Belt },
        ["petrol-vee"] = Start.VeeEight,
        ["flat-four"] = Start.FlatFour with { Cooling = Cooling.Air, Case = CaseBuild.Split },
        ["gas-six"] = Start.InlineSix with { Fuel = FuelSystem.Gas },
        ["diesel-four"] = Four with { Fuel = FuelSystem.Diesel },
        ["diesel-six"] = Start.InlineSix with { Fuel = FuelSystem.Diesel, Bores = BoreBuild.WetLiner, Charging = Charging.Turbocharger },
        ["two-stroke-twin"] = Start.TwoStrokeTwin,
        ["two-stroke-single"] = Start.TwoStrokeTwin with
        {
            Arrangement = Arrangement.Single,
            Cylinders = 1,
            FiringOrder = [1],
            Cooling = Cooling.Air,
        },
        ["air-single"] = Start.InlineSix with
        {
            Arrangement = Arrangement.Single,
            Cylinders = 1,
            FiringOrder = [1],
            Cooling = Cooling.Air,
            Bearings = BearingType.Rolling,
            RodBearings = BearingType.Plain,
        },
    };

    public static IReadOnlyList<WrittenCase> Read(string name) =>
        new DeserializerBuilder()
            .WithNamingConvention(CamelCaseNamingConvention.Instance)
            .Build()
            .Deserialize<List<WrittenCase>>(File.ReadAllText(Path.Combine(Start.Root(), "tests", "cases", name)));

    /// <summary>What a case says that the knowledge base or its engine does not know.</summary>
    public static IEnumerable<string> Faults(WrittenCase of)
    {
        if (!Engines.TryGetValue(of.Engine, out var layout))
        {
            return [$"{of.Id}: no engine {of.Engine}"];
        }

        var knowledge = KnowledgeBase.BuiltIn;
        var table = Start.Table(layout);
        return Words(of.Seen)
            .Select(w =>
            {
                var (sign, rest) = Halves(w, '@');
                var (place, _) = Halves(rest, '=');
                return knowledge.Sign(sign) is not { } known ? $"{of.Id}: no sign {sign}"
                    : table.Find(place) is not { } at ? $"{of.Id}: no place {place}"
                    : known.On.Contains(at.Kind.Id) ? ""
                    : $"{of.Id}: {sign} is not looked for on {at.Kind.Id} ({place})";
            })
            .Concat(Words(of.Told).Select(w => w.TrimStart('!')).Select(r => knowledge.Risks.Any(x => x.Id == r) ? "" : $"{of.Id}: no risk {r}"))
            .Concat(of.Causes.Select(c => knowledge.Cause(c) is null ? $"{of.Id}: no cause {c}" : ""))
            .Where(f => f.Length > 0);
    }

    public static TraceAnswer Answer(WrittenCase of)
    {
        var (layout, log, measured) = Log(of);
        return Tracer.Ranking(log, Start.Table(layout), KnowledgeBase.BuiltIn, measured);
    }

    /// <summary>The case as Trace takes it: findings with what was told, and figures as soft signs.</summary>
    public static (EngineLayout Layout, TraceLog Trace, IReadOnlyList<MeasuredSign> Measured) Log(WrittenCase of)
    {
        var table = Start.Table(Engines[of.Engine]);
        var findings = new List<Finding>();
        var measured = new List<MeasuredSign>();
        foreach (var one in Words(of.Seen))
        {
            var (sign, rest) = Halves(one, '@');
            var (place, level) = Halves(rest, '=');
            var at = table.Parse(place);
            if (KnowledgeBase.BuiltIn.Sign(sign)!.Measured)
            {
                var p = level == "0" ? 0.02 : 0.98;
                measured.Add(new MeasuredSign(sign, at.Code, p, 1 - p, Fact.Text("written")));
            }
            else
            {
                findings.Add(Start.Saw(at.Code, sign, int.Parse(level)));
            }
        }

        return (Engines[of.Engine], new TraceLog(findings, Words(of.Told).ToDictionary(w => w.TrimStart('!'), w => !w.StartsWith('!'))), measured);
    }

    /// <summary>Place of the first right cause in the ranking, from 1; 0 where it is not among those told.</summary>
    public static int Rank(WrittenCase of, TraceAnswer answer)
    {
        var knowledge = KnowledgeBase.BuiltIn;
        var told = answer.Ranking.Select(r => r.Cause).Distinct().ToList();
        var right = of.Causes.SelectMany(c => new[] { c, knowledge.Cause(c)!.KindOf });
        return right.Select(c => told.IndexOf(c) + 1).Where(r => r > 0).DefaultIfEmpty(0).Min();
    }

    /// <summary>Whether the answer is over eighty percent sure of what is not right.</summary>
    public static bool SureOfWrong(WrittenCase of, TraceAnswer answer)
    {
        var knowledge = KnowledgeBase.BuiltIn;
        var right = of.Causes.SelectMany(c => new[] { c, knowledge.Cause(c)!.KindOf }).ToHashSet();
        return answer.Ranking is [{ Probability: > 0.8 } first, ..] && !right.Contains(first.Cause);
    }

    private static string[] Words(string text) => text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);

    private static (string, string) Halves(string text, char by)
    {
        var at = text.IndexOf(by, StringComparison.Ordinal);
        return at < 0 ? throw new InvalidDataException($"“{text}” lacks “{by}”") : (text[..at], text[(at + 1)..]);
    }
}

using System.Globalization;
using MathNet.Numerics.RootFinding;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Gauge;

public enum InputKind
{
    /// <summary>One figure.</summary>
    Figure,

    /// <summary>Several figures, one behind the other with blanks or semicolons.</summary>
    Figures,

    /// <summary>One of a list.</summary>
    Choice,

    /// <summary>Words, such as a thread.</summary>
    Words,
}

/// <summary>A figure that a reckoner asks for.</summary>
/// <param name="Unit">Unit when none is typed.</param>
/// <param name="Example">What stands in it at first; with the other examples it makes a worked case.</param>
public sealed record ReckonerInput(
    string Id,
    string NameId,
    Quantity Quantity,
    string Unit,
    string Example,
    InputKind Kind = InputKind.Figure,
    IReadOnlyList<ReckonerChoice>? Choices = null
)
{
    public Fact Name => Fact.Of($"input.{NameId}");

    /// <summary>Least that makes sense, base unit; what lies below is refused by name.</summary>
    public double? Least { get; init; }

    public double? Most { get; init; }

    /// <summary>A count: a part of one is refused, not rounded.</summary>
    public bool Whole { get; init; }
}

/// <summary>A figure that comes out.</summary>
/// <param name="Value">Base unit of its quantity; null where words are the answer.</param>
/// <param name="Places">Decimal places worth showing.</param>
public sealed record ReckonerResult(string Id, double? Value, Quantity Quantity, int Places, Fact? Words = null)
{
    public Fact Name { get; init; } = Fact.Of($"result.{Id}");
}

/// <summary>One of a list that an input is chosen from.</summary>
public sealed record ReckonerChoice(string Id, Fact Name);

/// <summary>A formula of the bench, alone and without a case.</summary>
/// <param name="Drawing">Name of the drawing that shows what is measured.</param>
public sealed record BenchReckoner(string Id, string GroupId, string Equation, string Source, string Drawing, IReadOnlyList<ReckonerInput> Inputs)
{
    public Fact Name => Fact.Of($"reckoner.{Id}");

    public Fact Group => Fact.Of($"reckoner.group.{GroupId}");

    public Fact Says => Fact.Of($"reckoner.{Id}.says");

    internal Func<Given, IEnumerable<ReckonerResult>> Work { get; init; } = _ => [];

    /// <summary>Works it out from what was typed.</summary>
    /// <exception cref="ProblemException">A figure cannot be read, is missing, or makes no sense; the problem names its field.</exception>
    /// <param name="knowledge">Where the rules of thumb stand; null takes what ships.</param>
    public IReadOnlyList<ReckonerResult> Reckon(IReadOnlyDictionary<string, string> typed, KnowledgeBase? knowledge = null) =>
        [.. Work(new Given(this, typed, knowledge ?? KnowledgeBase.BuiltIn))];
}

/// <summary>What was typed into a reckoner, read by its inputs.</summary>
public sealed class Given(BenchReckoner reckoner, IReadOnlyDictionary<string, string> typed, KnowledgeBase knowledge)
{
    private const int MostFigures = 200;

    /// <summary>A figure in the base unit.</summary>
    public double this[string id] => Read(Input(id), Text(id));

    /// <summary>A figure above nothing.</summary>
    public double Above(string id) =>
        this[id] is > 0 and var v
            ? v
            : throw Refuse(id, Fact.Of("reckoners.must-more-than-nothing", ("input", Input(id).Name)), Fact.Of("reckoners.give-figure-above"));

    public string Text(string id) =>
        typed.TryGetValue(id, out var text) && !string.IsNullOrWhiteSpace(text)
            ? text.Trim()
            : throw Refuse(id, Fact.Of("reckoners.missing", ("input", Input(id).Name)), Fact.Of("reckoners.type"));

    public double? Maybe(string id) => typed.TryGetValue(id, out var text) && !string.IsNullOrWhiteSpace(text) ? Read(Input(id), text.Trim()) : null;

    public int Choice(string id)
    {
        var choices = Input(id).Choices!;
        var at = choices.ToList().FindIndex(c => c.Id == Text(id));
        return at >= 0
            ? at
            : throw Refuse(
                id,
                Fact.Of("reckoners.none-choices", ("text", Text(id))),
                Fact.Of("reckoners.choose", ("choices", choices.Select(c => c.Id)))
            );
    }

    public double[] Figures(string id, int least = 1)
    {
        var parts = Text(id).Split([';', '\n', '\t', ' '], StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length < least || parts.Length > MostFigures)
        {
            throw Refuse(
                id,
                Fact.Of(
                    "reckoners.so-many-figures-needed",
                    ("input", Input(id).Name),
                    ("least", least),
                    ("most", MostFigures),
                    ("there", parts.Length)
                ),
                Fact.Of("reckoners.separate-them-blanks")
            );
        }

        return [.. parts.Select(p => Read(Input(id), p))];
    }

    /// <summary>The rule of thumb of a characteristic for a part of the given size.</summary>
    /// <exception cref="ProblemException">The knowledge has no such rule.</exception>
    public AppliedLimit Thumb(string characteristic, string kind, double size, RingUse use = RingUse.Ordinary) =>
        Thumbs.For(knowledge, characteristic, kind, use, layout: null) is { } rule && Thumbs.Apply(rule, _ => size) is { } limit
            ? limit
            : throw new ProblemException(Problem.Of("", "reckoners.knowledge-rule-thumb", ("characteristic", characteristic)));

    private static ProblemException Refuse(string id, Fact text, Fact remedy) => new(new Problem(id, text, remedy));

    private static Number? Bound(double? bound) => bound is { } b ? new Number(b, 4) : null;

    private ReckonerInput Input(string id) => reckoner.Inputs.Single(i => i.Id == id);

    private static double Read(ReckonerInput input, string text)
    {
        TypedQuantity read;
        try
        {
            read = QuantityParser.Parse(text, input.Quantity, input.Unit);
        }
        catch (ProblemException e)
        {
            throw new ProblemException(e.Problems[0] with { Field = input.Id });
        }

        var value = (double)read.Value;
        var unit = QuantityParser.BaseUnit(input.Quantity);
        return read.Within > 0
                ? throw Refuse(input.Id, Fact.Of("reckoners.one-figure", ("input", input.Name)), Fact.Of("reckoners.give-one-figure-not-two"))
            : input.Whole && !double.IsInteger(value)
                ? throw Refuse(input.Id, Fact.Of("reckoners.cannot", ("input", input.Name), ("text", text)), Fact.Of("reckoners.give-whole-number"))
            : value < input.Least || value > input.Most
                ? throw Refuse(
                    input.Id,
                    Fact.Of("reckoners.cannot", ("input", input.Name), ("text", text)),
                    Fact.Of(
                        "reckoners.give",
                        ("least", Bound(input.Least)),
                        ("most", Bound(input.Most)),
                        ("unit", input.Quantity == Quantity.Ratio ? "" : unit)
                    )
                )
            : value;
    }
}

/// <summary>The bench reckoners: each formula of Gauge by itself, with its source and a drawing of what is measured.</summary>
public static partial class BenchReckoners
{
    private static ReckonerChoice[] Materials => [.. Material.All.Select(m => new ReckonerChoice(m.Id, m.Name))];
    private static string[] BoltGrades => ["4.6", "5.8", "8.8", "10.9", "12.9", "SAE 2", "SAE 5", "SAE 8"];
    private static ReckonerChoice[] Systems => Choices("both", "metric", "inch");
    private static ReckonerChoice[] Uses => Choices("ordinary", "hard-duty", "air-cooled", "two-stroke", "boosted");
    private static ReckonerChoice[] SetUps => Choices("on-its-old-centres", "following-the-wear");

    private static ReckonerChoice[] Choices(params string[] ids) => [.. ids.Select(id => new ReckonerChoice(id, Fact.Of($"choice.{id}")))];

    /// <summary>A choice that is called the same everywhere, such as a bolt's class.</summary>
    private static ReckonerChoice AsItIs(string name) => new(name, Fact.Text(name));

    public static IReadOnlyList<BenchReckoner> All { get; } = [.. Reading(), .. Bearings(), .. Bores(), .. Others()];

    public static BenchReckoner? Find(string id) => All.FirstOrDefault(r => r.Id == id);

    /// <summary>
    /// Film of a plain bearing. Diameter, width and clearance on the diameter in mm, speed in 1/min, viscosity in mPa·s, load in N.
    /// </summary>
    public static IReadOnlyList<ReckonerResult> Film(double diameter, double width, double clearance, double speed, double viscosity, double load)
    {
        var c = clearance / 2;
        var pressure = load / (diameter * width) * 1e6;
        var sommerfeld = Formulas.Sommerfeld.Of(diameter, width, clearance, speed, viscosity, load);
        var ratio = width / diameter;
        var bearing = ReynoldsFilm.At(sommerfeld, ratio);
        return
        [
            new("least-film", bearing.LeastFilm * c, Quantity.Length, 4, Fact.Of("reckoners.under-few-thousandths-millimetre-roughness")),
            new("sommerfeld-number", sommerfeld, Quantity.Ratio, 3),
            new("eccentricity-ratio", bearing.Eccentricity, Quantity.Ratio, 3),
            new("friction-variable-r-c-f", bearing.Friction, Quantity.Ratio, 2),
            new("flow-variable-q-rcnl", bearing.Flow, Quantity.Ratio, 2),
            new("greatest-pressure", pressure / bearing.PressureRatio / 1000, Quantity.Pressure, 0),
            new(
                "short-bearing-least-film",
                (1 - ShortBearing(sommerfeld, ratio)) * c,
                Quantity.Length,
                4,
                ratio > 0.6 ? Fact.Of("reckoners.short-bearing-holds-for-narrow") : null
            ),
        ];
    }

    /// <summary>Eccentricity of the short bearing at a Sommerfeld number.</summary>
    private static double ShortBearing(double sommerfeld, double ratio) =>
        Brent.FindRoot(e => Math.Log(ReynoldsFilm.OcvirkSommerfeld(e, ratio) / sommerfeld), 1e-9, 1 - 1e-12, 1e-10);

    /// <summary>The ways of a shop as they were typed.</summary>
    private static Schools Ways(Given g) =>
        g["allowance"] is >= 0 and <= 2 and var allowance
            ? new Schools
            {
                GrindingAllowance = (decimal)allowance,
                BoringAllowance = (decimal)allowance,
                Centres = (Centres)g.Choice("centres"),
            }
            : throw new ProblemException(Problem.Of("allowance", "reckoners.allowance-out-of-range"));

    /// <summary>The usual steps of a kind of part, in the measure that was chosen.</summary>
    private static SizeSteps StepsOf(string kind, Given g) => SizeSteps.Usual(KnowledgeBase.BuiltIn, kind, (StepSystem)g.Choice("steps"));

    private static Fact Sixtyfourths(double inches)
    {
        var n = (int)Math.Round(inches * 64);
        var (whole, top, bottom) = (n / 64, n % 64, 64);
        while (top > 0 && top % 2 == 0)
        {
            top /= 2;
            bottom /= 2;
        }

        var off = (inches - (n / 64.0)) * 1000;
        var fraction =
            top == 0 ? $"{whole}"
            : whole == 0 ? $"{top}/{bottom}"
            : $"{whole}-{top}/{bottom}";
        return Fact.Of(
            "reckoners.inches",
            ("fraction", fraction),
            ("off", Math.Abs(off) < 0.05 ? "" : off.ToString("+0.0;−0.0", CultureInfo.InvariantCulture))
        );
    }

    /// <summary>An input of a formula, with its name and range.</summary>
    private static ReckonerInput F(Formula formula, string input, string example, string unit = "")
    {
        var of = formula.Input(input);
        return new(of.Id, of.NameId, of.Quantity, unit.Length > 0 ? unit : QuantityParser.BaseUnit(of.Quantity), example)
        {
            Least = of.Least,
            Most = of.Most,
        };
    }

    private static ReckonerInput L(string id, string nameId, string example, string unit = "mm", double from = 0, double to = 5000) =>
        new(id, nameId, Quantity.Length, unit, example) { Least = from, Most = to };

    private static ReckonerInput Force(string id, string nameId, string example) =>
        new(id, nameId, Quantity.Force, "N", example) { Least = 1, Most = 5_000_000 };

    /// <summary>A whole number.</summary>
    private static ReckonerInput N(string id, string nameId, string example, double from, double to) =>
        new(id, nameId, Quantity.Ratio, "x", example)
        {
            Least = from,
            Most = to,
            Whole = true,
        };

    private static ReckonerInput C(string id, string nameId, IReadOnlyList<ReckonerChoice> choices, string first) =>
        new(id, nameId, Quantity.Ratio, "x", first, InputKind.Choice, choices);
}

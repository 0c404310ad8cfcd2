using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Gauge;

/// <summary>The registry of formulas. Lengths in mm, volumes in cm³, pressures in kPa, angles in degrees, speeds in 1/min.</summary>
public static class Formulas
{
    /// <summary>Standard acceleration and the like stand in Quantity; this is the reference temperature of lengths, °C (ISO 1).</summary>
    public const double ReferenceTemperature = 20;

    private const double HottestPart = 400;
    private const double ColdestPart = -60;

    private static readonly FormulaInput Bore = Length("bore", "bore", 5, 1000);
    private static readonly FormulaInput Stroke = Length("stroke", "stroke", 5, 2000);
    private static readonly FormulaInput Rod = Length("rod", "rod-between-centres", 10, 4000);
    private static readonly FormulaInput Speed = new("speed", "speed", Quantity.Speed, 1, 60_000);

    /// <summary>Length at 20 °C of a part measured at another temperature with an instrument at another.</summary>
    public static Formula AtReference { get; } =
        new(
            "size-at-20",
            Equation: "L₂₀ = L · (1 + α_g (t_g − 20)) / (1 + α_p (t_p − 20))",
            Source: "ISO 1 for the temperature; expansion: any physics text",
            Quantity.Length,
            [
                Length("read", "reading", 0, 5000),
                Expansion("part", "expansion-of-the-part"),
                Temperature("tp", "temperature-of-the-part", ColdestPart, HottestPart),
                Expansion("gauge", "expansion-of-the-instrument"),
                Temperature("tg", "temperature-of-the-instrument", ColdestPart, HottestPart),
            ],
            // An aluminium part of 100 mm grows by 22 µm in ten degrees.
            new WorkedFigure([100.044, 22e-6, 40, 11.5e-6, 20], 100, 1e-4, Source: "worked by hand: 100 · (1 + 22·10⁻⁶ · 20) = 100.044"),
            v => v[0] * (1 + (v[3] * (v[4] - ReferenceTemperature))) / (1 + (v[1] * (v[2] - ReferenceTemperature)))
        );

    /// <summary>Swept volume of one cylinder.</summary>
    public static Formula Swept { get; } =
        new(
            "swept",
            Equation: "V = π/4 · bore² · stroke",
            Source: "plane geometry",
            Quantity.Volume,
            [Bore, Stroke],
            new WorkedFigure([100, 100], 785.398, 0.001, Source: "worked by hand: π/4 litres"),
            v => Cylinder(v[0], v[1])
        );

    /// <summary>Compression ratio: what is swept and left over, to what is left over.</summary>
    public static Formula CompressionRatio { get; } =
        new(
            "compression-ratio",
            Equation: "(V_swept + V_rest) / V_rest; V_rest = chamber + crown + deck + joint",
            Source: "any engine text",
            Quantity.Ratio,
            [
                Bore,
                Stroke,
                new("chamber", "chamber-in-the-head", Quantity.Volume, 0, 10_000),
                new("crown", "crown-dish-dome", Quantity.Volume, -5000, 5000),
                Length("deck", "deck-height-below-above", -50, 100),
                Length("joint", "joint-squeezed", 0, 20),
                Length("jointBore", "bore-of-the-joint", 5, 1100),
            ],
            new WorkedFigure([100, 100, 78.5398, 0, 0, 0, 100], 11, 1e-4, Source: "worked by hand: a tenth of the swept volume left over"),
            v =>
            {
                var rest = v[2] + v[3] + Cylinder(v[0], v[4]) + Cylinder(v[6], v[5]);
                return rest > 0
                    ? (Cylinder(v[0], v[1]) + rest) / rest
                    : throw new ProblemException(Problem.Of("chamber", "gauge.nothing-would-left-over-piston"));
            }
        );

    /// <summary>How much a ring's gap closes when ring and bore warm up.</summary>
    public static Formula GapClosing { get; } =
        new(
            "gap-closing",
            Equation: "closing = π · bore · (α_r (t_r − 20) − α_b (t_b − 20))",
            Source: "expansion: any mechanics text",
            Quantity.Length,
            [
                Bore,
                Expansion("ring", "expansion-of-the-ring"),
                Temperature("tr", "ring-when-hot", ColdestPart, 500),
                Expansion("barrel", "expansion-of-the-bore"),
                Temperature("tb", "bore-when-hot", ColdestPart, HottestPart),
            ],
            new WorkedFigure([100, 10.5e-6, 250, 10.5e-6, 130], 0.39584, 1e-5, Source: "worked by hand: π · 100 · 10.5·10⁻⁶ · 120"),
            v => Math.PI * v[0] * ((v[1] * (v[2] - ReferenceTemperature)) - (v[3] * (v[4] - ReferenceTemperature)))
        );

    /// <summary>End gap of a ring in a bore that was made larger: the ring is as long as it was, and the bore’s round has grown.</summary>
    public static Formula GapAfterBoring { get; } =
        new(
            "gap-after-boring",
            Equation: "gap after = gap before + π · (bore after − bore before)",
            Source: "plane geometry",
            Quantity.Length,
            [Length("gap", "end-gap-cold", 0, 20), Length("before", "bore-before", 5, 1000), Length("after", "bore-after", 5, 1000)],
            new WorkedFigure([0.35, 88, 88.1], 0.664159, 1e-6, Source: "worked by hand: 0.35 + π · 0.1"),
            v => v[0] + (Math.PI * (v[2] - v[1]))
        );

    /// <summary>How far the end of a pegged ring stays from the edge of a port, along the bore’s wall; less than nothing where it lies in the port.</summary>
    public static Formula RingEndMargin { get; } =
        new(
            "ring-end-margin",
            Equation: "margin = π · bore · angle / 360 − gap / 2",
            Source: "plane geometry",
            Quantity.Length,
            [Bore, new("angle", "from-the-peg-to-the-edge", Quantity.Angle, -180, 180), Length("gap", "end-gap-cold", 0, 20)],
            new WorkedFigure([60, 12, 0.3], 6.133185, 1e-6, Source: "worked by hand: π · 60 · 12 / 360 − 0.15"),
            v => (Math.PI * v[0] * v[1] / 360) - (v[2] / 2)
        );

    /// <summary>How far a piston is below top dead centre (<see cref="CrankHelp.Drop"/>).</summary>
    public static Formula PistonDrop { get; } =
        new(
            "piston-drop",
            Equation: "x = r + l − (r cos θ + √(l² − r² sin² θ))",
            Source: "the slider crank, any dynamics text",
            Quantity.Length,
            [new("angle", "crank-past-top-dead-centre", Quantity.Angle, -720, 720), Stroke, Rod],
            new WorkedFigure([180, 90, 145], 90, 1e-9, Source: "at bottom dead centre it is down by the stroke"),
            v => CrankHelp.Drop(v[0], v[1], v[2])
        );

    /// <summary>Greatest acceleration of a piston in m/s², at top dead centre.</summary>
    public static Formula TopAcceleration { get; } =
        new(
            "top-acceleration",
            Equation: "a = r ω² (1 + r/l)",
            Source: "any dynamics text",
            Quantity.Ratio,
            [Stroke, Rod, Speed],
            new WorkedFigure([100, 200, 3000], 6168.5, 0.5, Source: "worked by hand: 0.05 · 314.16² · 1.25"),
            v =>
            {
                Turns(v[0], v[1]);
                var omega = v[2] * 2 * Math.PI / 60;
                return v[0] / 2000 * omega * omega * (1 + (v[0] / 2 / v[1]));
            }
        );

    /// <summary>Mean piston speed in m/s.</summary>
    public static Formula MeanPistonSpeed { get; } =
        new(
            "mean-piston-speed",
            Equation: "v = 2 · stroke · speed",
            Source: "any engine text",
            Quantity.Ratio,
            [Stroke, Speed],
            new WorkedFigure([80, 6000], 16, 1e-9, Source: "worked by hand: 2 · 0.08 m · 100 1/s"),
            v => 2 * v[0] / 1000 * v[1] / 60
        );

    /// <summary>
    /// Speed near which a top ring can begin to flutter: where the piston's acceleration at top dead centre reaches the onset published for the
    /// ring's axial width, which falls inversely with it.
    /// </summary>
    public static Formula FlutterSpeed { get; } =
        new(
            "flutter-speed",
            Equation: "r ω² (1 + r/l) = a; a = 26 600 ft/s² · (⅛ in / width)",
            Source: "slider crank: any dynamics text; onset accelerations of piston ring flutter as published by ring makers, values from memory: a rule of thumb",
            Quantity.Speed,
            [Stroke, Rod, Length("width", "ring-axial-width", 0.3, 12)],
            new WorkedFigure(
                [100, 200, 1.5875],
                4864,
                1,
                Source: "worked by hand: 53 200 ft/s² are 16 215 m/s² on a ring of 1/16 in; ω² = 16 215 / (0.05 · 1.25)"
            ),
            v =>
            {
                Turns(v[0], v[1]);
                return Math.Sqrt(FlutterOnset(v[2]) / (v[0] / 2000 * (1 + (v[0] / 2 / v[1])))) * 60 / (2 * Math.PI);
            }
        );

    /// <summary>
    /// Piston acceleration in m/s² at which rings of an axial width in mm begin to flutter: 26,600 ft/s² at ⅛ in, inversely with width. Published
    /// onsets are 26,600, 53,000 and 106,600 ft/s² at 3.2, 1.6 and 0.8 mm; values from memory.
    /// </summary>
    public static double FlutterOnset(double width) => 26_600 * 0.3048 * 3.175 / width;

    /// <summary>Angle between the two directions of a cross-hatch.</summary>
    public static Formula HatchAngle { get; } =
        new(
            "hatch-angle",
            Equation: "angle = 2 · atan(stroke rate · stroke length / (π · bore · speed))",
            Source: "plane geometry",
            Quantity.Angle,
            [
                Bore,
                new("speed", "hone-turns", Quantity.Speed, 1, 5000),
                new("strokes", "single-strokes-in-a-minute", Quantity.Speed, 1, 2000),
                Length("length", "length-of-a-stroke", 1, 2000),
            ],
            new WorkedFigure([100, 100, 314.159265, 100], 90, 1e-5, Source: "equal stroking and surface speed cross at right angles"),
            v => 2 * Math.Atan2(v[2] * v[3], Math.PI * v[0] * v[1]) * 180 / Math.PI
        );

    /// <summary>Clearance of a plain bearing from the sizes of its parts.</summary>
    public static Formula BearingClearance { get; } =
        new(
            "bearing-clearance",
            Equation: "clearance = housing − upper wall − lower wall − journal",
            Source: "plane geometry",
            Quantity.Length,
            [
                Length("housing", "housing-bore-cap-torqued", 1, 1000),
                Length("upper", "upper-wall", 0.2, 50),
                Length("lower", "lower-wall", 0.2, 50),
                Length("journal", "journal", 1, 1000),
            ],
            new WorkedFigure([77.050, 2.624, 2.624, 71.748], 0.054, 1e-9, Source: "worked by hand"),
            v => v[0] - v[1] - v[2] - v[3]
        );

    /// <summary>Sommerfeld number of a plain bearing.</summary>
    public static Formula Sommerfeld { get; } =
        new(
            "sommerfeld",
            Equation: "S = (r/c)² · μ N / P; P = W / (2 r l)",
            Source: "A. A. Raimondi and J. Boyd, ASLE Transactions 1 (1958)",
            Quantity.Ratio,
            [
                Length("diameter", "journal", 1, 1000),
                Length("width", "shell-width", 1, 1000),
                Length("clearance", "clearance-on-the-diameter", 0.0005, 5),
                Speed,
                new("viscosity", "oil-at-bearing-heat", Quantity.Viscosity, 0.1, 5000),
                new("load", "steady-load", Quantity.Force, 1, 1_000_000),
            ],
            // W 500 lbf, 30 rev/s, 4 µreyn, r 0.75 in, c 0.0015 in, l 1.5 in.
            new WorkedFigure(
                [38.1, 38.1, 0.0762, 1800, 27.579, 2224.11],
                0.135,
                0.0005,
                Source: "Shigley's Mechanical Engineering Design, worked example on Raimondi and Boyd's charts; values from memory"
            ),
            v => Math.Pow(v[0] / v[2], 2) * (v[4] / 1000) * (v[3] / 60) / (v[5] / (v[0] * v[1]) * 1e6)
        );

    /// <summary>Crank angle past top dead centre at which the edge of a flat crown passes the upper edge of a port.</summary>
    public static Formula PortOpens { get; } =
        new(
            "port-opens",
            Equation: "cos θ = (k² + r² − l²) / (2 r k); k = r + l − (height − deck)",
            Source: "the slider crank, any dynamics text",
            Quantity.Angle,
            [Stroke, Rod, Length("height", "port-edge-below-the-deck", 0, 2000), Length("deck", "deck-height-below-above", -50, 100)],
            new WorkedFigure([90, 145, 90, 0], 180, 1e-4, Source: "a port at the bottom of the stroke opens at bottom dead centre"),
            v =>
            {
                Turns(v[0], v[1]);
                var (r, down) = (v[0] / 2, v[2] - v[3]);
                if (down < 0 || down > v[0])
                {
                    throw new ProblemException(Problem.Of("height", "gauge.port-not-in-the-stroke"));
                }

                var k = r + v[1] - down;
                return Math.Acos(Math.Clamp(((k * k) + (r * r) - (v[1] * v[1])) / (2 * r * k), -1, 1)) * 180 / Math.PI;
            }
        );

    /// <summary>Chord of a port in % of the bore.</summary>
    public static Formula PortShare { get; } =
        new(
            "port-share",
            Equation: "share = chord / bore",
            Source: "plane geometry",
            Quantity.Share,
            [Bore, Length("chord", "chord-of-the-port", 1, 1000)],
            new WorkedFigure([60, 42], 70, 1e-9, Source: "worked by hand"),
            v => v[1] <= v[0] ? 100 * v[1] / v[0] : throw new ProblemException(Problem.Of("chord", "gauge.chord-wider-than-the-bore"))
        );

    /// <summary>Rate of a spring in N/mm from two loads and heights.</summary>
    public static Formula SpringRate { get; } =
        new(
            "spring-rate",
            Equation: "rate = ΔF / Δh",
            Source: "Hooke’s law; any mechanics text",
            Quantity.Ratio,
            [
                new("f1", "load-at-the-first-height", Quantity.Force, 0, 100_000),
                Length("h1", "first-height", 1, 1000),
                new("f2", "load-at-the-second-height", Quantity.Force, 0, 100_000),
                Length("h2", "second-height", 1, 1000),
            ],
            new WorkedFigure([250, 40, 600, 30], 35, 1e-9, Source: "worked by hand: 350 N in 10 mm"),
            v => Math.Abs(v[1] - v[3]) > 1e-9 ? (v[2] - v[0]) / (v[1] - v[3]) : throw new ProblemException(Problem.Of("h2", "gauge.two-heights-one"))
        );

    /// <summary>Pull of a forcing screw in N from its torque.</summary>
    public static Formula ScrewPull { get; } =
        new(
            "screw-pull",
            Equation: "F = T / (K · d)",
            Source: "any text on machine elements; K is a rule of thumb",
            Quantity.Force,
            [
                new("torque", "torque", Quantity.Torque, 0.1, 5000),
                new("k", "torque-coefficient", Quantity.Ratio, 0.05, 0.5),
                Length("diameter", "nominal-diameter-of-the-screw", 1, 200),
            ],
            new WorkedFigure([80, 0.2, 10], 40_000, 1e-6, Source: "worked by hand: 80 N·m on an M10 at K 0.2"),
            v => 1000 * PullerHelp.Pull(v[0], v[1], v[2])
        );

    /// <summary>
    /// Preload of a bolt in N from the torque on its head: what is left of the torque after the friction under the head and in the thread goes up the
    /// slope of the thread.
    /// </summary>
    public static Formula BoltPreload { get; } =
        new(
            "bolt-preload",
            Equation: "F = T / (P / 2π + μ_thread · d₂ / (2 cos 30°) + μ_head · D / 2)",
            Source: "VDI 2230, part 1: tightening torque of a 60° thread; from memory",
            Quantity.Force,
            [
                new("torque", "torque", Quantity.Torque, 0.1, 5000),
                Length("pitch", "pitch", 0.1, 10),
                Length("pitchDiameter", "pitch-diameter", 1, 200),
                Length("headDiameter", "mean-diameter-under-the-head", 1, 300),
                new("thread", "friction-in-the-thread", Quantity.Ratio, 0.02, 0.6),
                new("head", "friction-under-the-head", Quantity.Ratio, 0.02, 0.6),
            ],
            // ¾-16 UNF drawn to 25 kip by 3,551 lbf·in at 0.15 in thread and collar, the collar 1¼ of the bolt.
            new WorkedFigure(
                [401.2, 1.5875, 18.016, 23.8125, 0.15, 0.15],
                111_206,
                600,
                Source: "J. E. Shigley and C. R. Mischke, Mechanical Engineering Design: torque of a ¾-16 UNF bolt by the screw equation; values from memory"
            ),
            v => 1000 * v[0] / ((v[1] / (2 * Math.PI)) + (v[4] * v[2] / (2 * Math.Cos(Math.PI / 6))) + (v[5] * v[3] / 2))
        );

    /// <summary>Clearance from the width of a squeezed plastic strip: its section stays as large as it was, so that width times height stays the same.</summary>
    public static Formula StripClearance { get; } =
        new(
            "strip-clearance",
            Equation: "clearance = clearance of the mark · width of the mark / width found",
            Source: "plane geometry: the section of the strip stays as large as it was",
            Quantity.Length,
            [
                Length("mark", "clearance-of-the-mark", 0.005, 1),
                Length("markWidth", "width-of-the-mark", 0.2, 50),
                Length("width", "width-of-the-strip", 0.2, 50),
            ],
            new WorkedFigure([0.051, 2, 3], 0.034, 1e-9, Source: "worked by hand: a strip half as wide again lies two thirds as high"),
            v => v[0] * v[1] / v[2]
        );

    /// <summary>Width of a standard tolerance in mm (<see cref="Fits.Tolerance"/>).</summary>
    public static Formula StandardTolerance { get; } =
        new(
            "standard-tolerance",
            Equation: "read from the table by grade and range of sizes",
            Source: "ISO 286-1, table 1; values from memory",
            Quantity.Length,
            [new("grade", "grade", Quantity.Ratio, 5, 11), Length("size", "nominal-size", 0.1, 500)],
            new WorkedFigure([7, 40], 0.025, 1e-9, Source: "ISO 286-1, 30 to 50 mm; value from memory"),
            v => Fits.Tolerance((int)v[0], v[1]) / 1000
        );

    /// <summary>Angle of a place on the crown from the arc along it.</summary>
    public static Formula ArcAngle { get; } =
        new(
            "arc-angle",
            Equation: "angle = 360 · arc / (π · bore)",
            Source: "plane geometry",
            Quantity.Angle,
            [Bore, Length("arc", "arc-from-the-free-end", 0, 3200)],
            new WorkedFigure([100, 78.53981634], 90, 1e-6, Source: "a quarter of the way round"),
            v => 360 * v[1] / (Math.PI * v[0])
        );

    private static readonly FormulaInput[] Rolling =
    [
        new("elements", "rolling-elements", Quantity.Ratio, 3, 200),
        Length("element", "element-diameter", 0.5, 200),
        Length("pitch", "circle-of-elements", 2, 2000),
        new("contact", "contact-angle", Quantity.Angle, 0, 60),
    ];

    /// <summary>How often per turn of the shaft a mark on the fixed outer ring is run over.</summary>
    public static Formula OuterRingOrder { get; } =
        OfRolling("outer-ring-order", "n/2 · (1 − d/D · cos α)", 3.5848, 0.001, v => v[0] / 2 * (1 - Closeness(v)));

    /// <summary>How often per turn a mark on the turning inner ring is run over.</summary>
    public static Formula InnerRingOrder { get; } =
        OfRolling("inner-ring-order", "n/2 · (1 + d/D · cos α)", 5.4152, 0.001, v => v[0] / 2 * (1 + Closeness(v)));

    /// <summary>How often per turn a mark on a rolling element meets a ring: twice each time it turns about itself.</summary>
    public static Formula ElementOrder { get; } =
        OfRolling("rolling-element-order", "D/d · (1 − (d/D · cos α)²)", 4.7135, 0.002, v => v[2] / v[1] * (1 - (Closeness(v) * Closeness(v))));

    /// <summary>Turns of the cage per turn of the shaft.</summary>
    public static Formula CageOrder { get; } = OfRolling("cage-order", "½ · (1 − d/D · cos α)", 0.39828, 0.0005, v => (1 - Closeness(v)) / 2);

    private static Formula OfRolling(string id, string equation, double worked, double within, Func<IReadOnlyList<double>, double> of) =>
        new(
            id,
            equation,
            Source: "Randall and Antoni, “Rolling element bearing diagnostics: a tutorial”, Mechanical Systems and Signal Processing 25, 2011, §2",
            Quantity.Ratio,
            Rolling,
            new WorkedFigure(
                [9, 7.94, 39.04, 0],
                worked,
                within,
                Source: "Case Western Reserve University bearing data, 9 balls of 7.940 mm on 39.04 mm; from memory"
            ),
            of
        );

    private static double Closeness(IReadOnlyList<double> v) => v[1] / v[2] * Math.Cos(v[3] * Math.PI / 180);

    /// <summary>All of them, for the list of formulas and the tests.</summary>
    public static IReadOnlyList<Formula> All { get; } =
    [
        AtReference,
        Swept,
        CompressionRatio,
        GapClosing,
        GapAfterBoring,
        RingEndMargin,
        PistonDrop,
        TopAcceleration,
        MeanPistonSpeed,
        FlutterSpeed,
        HatchAngle,
        BearingClearance,
        PortOpens,
        PortShare,
        Sommerfeld,
        SpringRate,
        ScrewPull,
        BoltPreload,
        StripClearance,
        StandardTolerance,
        ArcAngle,
        OuterRingOrder,
        InnerRingOrder,
        ElementOrder,
        CageOrder,
    ];

    private static FormulaInput Length(string id, string nameId, double least, double most) => new(id, nameId, Quantity.Length, least, most);

    private static FormulaInput Temperature(string id, string nameId, double least, double most) =>
        new(id, nameId, Quantity.Temperature, least, most);

    private static FormulaInput Expansion(string id, string nameId) => new(id, nameId, Quantity.Ratio, 0, 50e-6, "1/K");

    private static double Cylinder(double bore, double height) => Math.PI / 4 * bore * bore * height / 1000;

    /// <exception cref="ProblemException">The rod is too short for the throw to pass.</exception>
    private static void Turns(double stroke, double rod)
    {
        if (rod <= stroke / 2)
        {
            throw new ProblemException(Problem.Of("rod", "gauge.rod-shorter-than-throw-cannot"));
        }
    }
}

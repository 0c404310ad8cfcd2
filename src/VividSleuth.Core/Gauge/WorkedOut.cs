using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>Figures that formulas make of others: compression ratio, ring gap when hot, flutter, interference of rolling bearings.</summary>
internal static class WorkedOut
{
    private const string MainBearing = "main-bearing";

    private static readonly IReadOnlyList<string> OverThePiston = ["chamber-volume", "deck-height"];
    private static readonly IReadOnlyList<string> GappedRings = ["ring-top", "ring-second"];

    public static void Add(SheetDraft draft, Phase phase)
    {
        foreach (var cylinder in draft.Table.Engine.Cylinders)
        {
            var n = cylinder.Number;
            var bore = draft.Table.Find(PartKinds.Bore, n)!;
            var piston = draft.Table.Find(PartKinds.Piston, n)!;
            var size = draft.Whole(bore, Characteristics.BoreDiameter, phase);
            if (size is not null && draft.Log.Stroke is { } stroke)
            {
                Ratio(draft, bore, piston, size, (double)stroke, phase);
            }

            Flutter(draft, piston, phase);
            Ports(draft, bore, size, phase);
            Pegs(draft, bore, size, phase);

            foreach (var ring in GappedRings.Select(k => draft.Table.Find(k, n)).OfType<Address>())
            {
                HotGap(draft, ring, bore, size, phase);
            }
        }

        CompressionShares(draft, phase);
        foreach (var bearing in draft.Table.OfKind(MainBearing).Concat(draft.Table.OfKind("rod-bearing")))
        {
            Interference(draft, bearing, phase);
        }
    }

    /// <summary>Each cylinder's compression in % of the highest; the error of the gauge that read both cancels.</summary>
    private static void CompressionShares(SheetDraft draft, Phase phase)
    {
        var read = draft
            .Table.OfKind(PartKinds.Bore)
            .Select(b => (Bore: b, Kpa: draft.Book.Whole(b.Code, Characteristics.Compression, phase)))
            .Where(x => x.Kpa is { Value: > 0 })
            .ToArray();
        if (read.Length < 2)
        {
            return;
        }

        var best = read.MaxBy(x => x.Kpa!.Value).Kpa!;
        foreach (var (bore, kpa) in read)
        {
            draft.Add(
                bore,
                Characteristics.CompressionShare,
                phase,
                ReferenceEquals(kpa, best) ? Estimate.Exact(100) : Estimate.Through(v => 100 * v[0] / v[1], kpa!, best),
                Fact.Of("gauge.compression-share", ("pressure", CompressionTest.Bar(kpa!.Value)), ("best", CompressionTest.Bar(best.Value)))
            );
        }
    }

    /// <summary>Compression ratio from bore, stroke, chamber, crown, deck and joint. <see cref="Formulas.CompressionRatio"/>.</summary>
    private static void Ratio(SheetDraft draft, Address bore, Address piston, Estimate size, double stroke, Phase phase)
    {
        var head = Kin.Of(draft.Table, bore, "head-joint");
        if (
            draft.Whole(bore, "chamber-volume", phase) is not { } chamber
            || draft.Whole(bore, "deck-height", phase) is not { } deck
            || draft.Whole(head, "joint-thickness", phase) is not { } joint
            // So that nothing is told twice, something of the phase itself must be in it.
            || (phase != Phase.AsFound && OverThePiston.All(id => draft.Book.Cells(bore.Code, id, phase).Count == 0))
        )
        {
            return;
        }

        if (draft.Whole(piston, "crown-volume", phase) is not { } crown)
        {
            draft.Notes.Add(Fact.Of("gauge.ratio-needs-the-crown", ("bore", bore.Code)));
            return;
        }

        var jointBore = draft.Whole(head, "joint-bore", phase) ?? size;
        if (Through(draft, Formulas.CompressionRatio, bore, size, Estimate.Exact(stroke), chamber, crown, deck, joint, jointBore) is { } ratio)
        {
            draft.Add(
                bore,
                "compression-ratio",
                phase,
                ratio,
                Fact.Of(
                    "gauge.ratio",
                    ("swept", Volume(Formulas.Swept.Of(size.Value, stroke))),
                    ("chamber", Volume(chamber.Value)),
                    ("crown", Volume(crown.Value)),
                    ("deck", Amount.Length(deck.Value, 2)),
                    ("joint", Amount.Length(joint.Value, 2))
                )
            );
        }
    }

    /// <summary>A figure worked out by a formula; where one of its figures cannot be, a note says which, and there is none.</summary>
    private static Estimate? Through(SheetDraft draft, Formula formula, Address place, params IReadOnlyList<Estimate> values)
    {
        try
        {
            return formula.Through(values);
        }
        catch (ProblemException e)
        {
            draft.Notes.Add(
                Fact.Of(
                    "gauge.formula-refused",
                    ("formula", formula.Name),
                    ("place", place.Code),
                    ("why", e.Problems[0].Text),
                    ("remedy", e.Problems[0].Remedy)
                )
            );
            return null;
        }
    }

    /// <summary>What is left of a ring's gap when ring and bore are hot. <see cref="Formulas.GapClosing"/>.</summary>
    private static void HotGap(SheetDraft draft, Address ring, Address bore, Estimate? size, Phase phase)
    {
        var engine = draft.Table.Find(PartKinds.Engine, 0);
        if (
            size is null
            || draft.Book.Whole(ring.Code, Characteristics.RingEndGap, phase) is not { } gap
            || draft.Whole(engine, "ring-temperature", Phase.AsFound) is not { } hotRing
            || draft.Whole(engine, "bore-temperature", Phase.AsFound) is not { } hotBore
        )
        {
            return;
        }

        var barrel = Estimate.Exact(PartMaterial.Of(bore.Kind.Id, draft.Table.Engine.Layout).Expansion);
        var metal = Estimate.Exact(PartMaterial.Of(ring.Kind.Id, draft.Table.Engine.Layout).Expansion);
        if (Through(draft, Formulas.GapClosing, ring, size, metal, hotRing, barrel, hotBore) is not { } closing)
        {
            return;
        }

        var hot = gap - closing;
        draft.Add(
            ring,
            "ring-gap-hot",
            phase,
            hot,
            Fact.Of(
                "gauge.gap-cold",
                ("gap", Amount.Length(gap.Value, 2)),
                ("ring", new Amount(hotRing.Value, Quantity.Temperature, 0)),
                ("bore", new Amount(hotBore.Value, Quantity.Temperature, 0)),
                ("ringOf", PartMaterial.Of(ring.Kind.Id, draft.Table.Engine.Layout).Name),
                ("boreOf", PartMaterial.Of(bore.Kind.Id, draft.Table.Engine.Layout).Name)
            )
        );
        if (hot.Value < hot.Expanded)
        {
            draft.Notes.Add(
                Fact.Of("gauge.gap-may-butt", ("ring", ring.Code), ("gap", Amount.Length(hot.Value)), ("uncertainty", Amount.Length(hot.Expanded)))
            );
        }
    }

    /// <summary>Speed near which the top ring can begin to flutter. <see cref="Formulas.FlutterSpeed"/>.</summary>
    private static void Flutter(SheetDraft draft, Address piston, Phase phase)
    {
        if (
            draft.Table.Find("ring-top", piston.Station) is not { } ring
            || draft.Log.Stroke is not { } stroke
            || draft.Log.RodLength is not { } rod
            || draft.Book.Whole(ring.Code, "ring-width", phase) is not { } width
        )
        {
            return;
        }

        if (Through(draft, Formulas.FlutterSpeed, ring, Estimate.Exact((double)stroke), Estimate.Exact((double)rod), width) is { } speed)
        {
            draft.Add(
                ring,
                "flutter-speed",
                phase,
                speed,
                Fact.Of(
                    "gauge.flutter",
                    ("width", Amount.Length(width.Value, 2)),
                    ("onset", new Number(100 * Math.Round(Formulas.FlutterOnset(width.Value) / 100)))
                )
            );
        }
    }

    /// <summary>When a two-stroke's port opens, and how wide it is. <see cref="Formulas.PortOpens"/>, <see cref="Formulas.PortShare"/>.</summary>
    private static void Ports(SheetDraft draft, Address bore, Estimate? size, Phase phase)
    {
        if (
            draft.Book.Whole(bore.Code, "port-timing-height", phase) is { } height
            && draft.Log.Stroke is { } stroke
            && draft.Log.RodLength is { } rod
        )
        {
            var deck = draft.Whole(bore, "deck-height", phase) ?? Estimate.Exact(0);
            if (Through(draft, Formulas.PortOpens, bore, Estimate.Exact((double)stroke), Estimate.Exact((double)rod), height, deck) is { } opens)
            {
                draft.Add(
                    bore,
                    "port-opens",
                    phase,
                    opens,
                    Fact.Of(
                        "gauge.port",
                        ("height", Amount.Length(height.Value, 2)),
                        ("deck", Amount.Length(deck.Value, 2)),
                        ("open", new Amount(360 - (2 * opens.Value), Quantity.Angle, 0))
                    )
                );
            }
        }

        if (
            size is not null
            && draft.Book.Whole(bore.Code, "port-chord", phase) is { } chord
            && Through(draft, Formulas.PortShare, bore, size, chord) is { } share
        )
        {
            draft.Add(
                bore,
                "port-share",
                phase,
                share,
                Fact.Of("gauge.port-of", ("chord", Amount.Length(chord.Value, 2)), ("bore", Amount.Length(size.Value, 2)))
            );
        }
    }

    private static readonly string[] PeggedRings = ["ring-top", "ring-second"];

    /// <summary>How far the ends of pegged rings stay from the ports' edges. <see cref="Formulas.RingEndMargin"/>.</summary>
    private static void Pegs(SheetDraft draft, Address bore, Estimate? size, Phase phase)
    {
        if (size is null || Kin.Of(draft.Table, bore, PartKinds.Piston) is not { } piston)
        {
            return;
        }

        var edges = draft.Book.Cells(bore.Code, "port-edge", phase);
        var ports = edges
            .Where(e => e.Station.EndsWith(" left", StringComparison.Ordinal))
            .Select(l => (Left: l, Right: edges.FirstOrDefault(r => r.Station == l.Station[..^4] + "right")))
            .Where(p => p.Right is not null)
            .ToArray();
        // The grooves as the characteristic names them, from the top.
        var grooves = draft.Knowledge.Characteristic("ring-peg")?.Stations ?? [];
        foreach (var (kind, groove) in PeggedRings.Zip(grooves))
        {
            var peg =
                draft.Book.Whole(piston.Code, "ring-peg", phase, station: groove)
                ?? draft.Book.Whole(piston.Code, "ring-peg", Phase.AsFound, station: groove);
            if (ports.Length == 0 || peg is null || Kin.Of(draft.Table, bore, kind) is not { } ring)
            {
                continue;
            }

            var gap = draft.Whole(ring, Characteristics.RingEndGap, phase) ?? Estimate.Exact(0);
            // Within a port the end lies in it, by how far it is from the nearer edge.
            var nearest = ports
                .SelectMany(p =>
                {
                    var within = Turn(p.Left.At.Value, peg.Value) <= Turn(p.Left.At.Value, p.Right!.At.Value);
                    return new[] { p.Left, p.Right! }.Select(e => (Edge: e, Sign: within ? -1 : 1));
                })
                .Select(e => (e.Edge, e.Sign, Away: Math.Abs(Circular.Drift(peg.Value, e.Edge.At.Value))))
                .OrderBy(e => e.Sign)
                .ThenBy(e => e.Away)
                .First();
            var turn = Estimate.Sum((1, nearest.Edge.At), (-1, peg));
            var angle = Estimate.Of(nearest.Sign * nearest.Away, turn.Influences);
            if (Through(draft, Formulas.RingEndMargin, ring, size, angle, gap) is { } margin)
            {
                draft.Add(
                    ring,
                    "ring-end-margin",
                    phase,
                    margin,
                    Fact.Of(
                        nearest.Sign > 0 ? "gauge.peg-beside" : "gauge.peg-in-port",
                        ("port", nearest.Edge.Station),
                        ("peg", new Amount(peg.Value, Quantity.Angle, 0)),
                        ("edge", new Amount(nearest.Edge.At.Value, Quantity.Angle, 0))
                    )
                );
            }
        }

        // Degrees from one direction to another, clockwise.
        static double Turn(double from, double to) => (((to - from) % 360) + 360) % 360;
    }

    /// <summary>How tight a rolling bearing sits on its shaft: by its own bore where that was measured, else by its tolerance (<see cref="Fits"/>).</summary>
    private static void Interference(SheetDraft draft, Address bearing, Phase phase)
    {
        var shaft = Kin.Of(draft.Table, bearing, bearing.Kind.Id == MainBearing ? PartKinds.MainJournal : PartKinds.Crankpin);
        if (
            shaft is null
            || draft.Whole(shaft, Characteristics.SeatDiameter, phase) is not { } seat
            // So that nothing is told twice, something of the phase itself must be in it.
            || (
                draft.Book.Cells(shaft.Code, Characteristics.SeatDiameter, phase).Count == 0
                && draft.Book.Cells(bearing.Code, "bearing-bore", phase).Count == 0
            )
        )
        {
            return;
        }

        if (draft.Whole(bearing, "bearing-bore", phase) is { } bore)
        {
            var from = Fact.Of("gauge.interference", ("shaft", Amount.Length(seat.Value)), ("bore", Amount.Length(bore.Value)));
            draft.Add(bearing, "bearing-interference", phase, seat - bore, from);
        }
        else if (draft.Limits.Nominal(Characteristics.SeatDiameter, shaft.Kind.Id) is { } nominal && nominal is > 10 and <= 50)
        {
            var (least, most) = Fits.OnShaft((double)nominal, seat.Value);
            // The tolerance reaches from the nominal bore downward.
            var half = (most - least) / 2 / 1000;
            var inner = Estimate.Of(
                (double)nominal - half,
                new Influence($"ring/{bearing.Code}", Fact.Of("gauge.tolerance-of-the-inner-ring"), Uncertainty.Rectangular(half))
            );
            var from = Fact.Of("gauge.interference-by-tolerance", ("shaft", Amount.Length(seat.Value)), ("nominal", Amount.Length(nominal, 0)));
            draft.Add(bearing, "bearing-interference", phase, seat - inner, from);
        }
    }

    private static Amount Volume(double cm3) => new(cm3, Quantity.Volume, 1);
}

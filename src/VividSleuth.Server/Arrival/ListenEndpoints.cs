using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Sounds;
using VividSleuth.Store;
using VividSleuth.Store.Arrival;

namespace VividSleuth.Server.Arrival;

/// <summary>Geometry of a rolling bearing, in mm and degrees.</summary>
public sealed record RollingGeometry(double Elements, double Element, double Pitch, double Contact = 0);

/// <summary>A band on the circle.</summary>
/// <param name="From">Hz.</param>
/// <param name="Mean">By 3 degrees from the first of the firing order, as a multiple of the band’s mean.</param>
public sealed record CircleView(double From, double To, IReadOnlyList<double> Mean);

/// <summary>A firing, in degrees from the first of the firing order.</summary>
public sealed record FiringView(IReadOnlyList<int> Cylinders, double Angle, bool Missing);

/// <param name="Name">What it fits by its geometry; null where it is nothing that was named.</param>
public sealed record LineView(double Order, double Chance, Fact? Name);

public sealed record StretchView(double Rpm, IReadOnlyList<double> Levels);

/// <summary>What was heard in one recording.</summary>
/// <param name="At">Degrees after the first of the firing order, where the noise is loudest; null where none stands out.</param>
/// <param name="Band">Index of the circle in which it rings loudest.</param>
/// <param name="Orders">Orders of the spectrum, per turn.</param>
/// <param name="Stretches">Levels from the first half order on, of a two-stroke from the first whole one on.</param>
/// <param name="Says">Doubts, and what would tell more.</param>
public sealed record HeardView(
    NoiseBeat Beat,
    double Chance,
    double Rpm,
    double? Rival,
    int Cycles,
    int Degrees,
    bool Placed,
    double? At,
    int Band,
    double? Soon,
    IReadOnlyList<int> Whose,
    IReadOnlyList<HeardCylinder> Cylinders,
    IReadOnlyList<FiringView> Firings,
    IReadOnlyList<CircleView> Circles,
    IReadOnlyList<LineView> Lines,
    IReadOnlyList<double> Orders,
    IReadOnlyList<double> Levels,
    IReadOnlyList<StretchView> Stretches,
    IReadOnlyList<Fact> Says,
    IReadOnlyList<SoundSign> Signs
);

/// <summary>What was left of the noise with cylinders cut out.</summary>
/// <param name="Says">What keeps it from being weighed; null where nothing does.</param>
public sealed record CutOutView(IReadOnlyList<CutOutResult> Results, double Elsewhere, int? Whose, Fact? Says);

public sealed record ListenAnswer(IReadOnlyList<HeardView> Heard, CutOutView? CutOut);

/// <summary>Listens to recordings of the engine before it comes apart. Nothing is written: what is heard is offered, and taken as findings.</summary>
public static class ListenEndpoints
{
    private const int MostFiles = 26;

    private static readonly Func<Formula, Fact> NameOf = f => f.Name;

    private static readonly IReadOnlyList<Formula> BearingOrders =
    [
        Formulas.OuterRingOrder,
        Formulas.InnerRingOrder,
        Formulas.ElementOrder,
        Formulas.CageOrder,
    ];

    public static void MapListening(this RouteGroupBuilder api) =>
        api.MapPost("/cases/{caseId:guid}/listen", ListenAsync)
            .WithTags("arrival")
            .RequireAuthorization(Policies.Write)
            // What another site sends is refused before it comes here (Gatekeeping).
            .DisableAntiforgery()
            .WithMetadata(new RequestSizeLimitAttribute(SoundWave.MostBytes + Gatekeeping.MostBytes))
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    /// <param name="rpm">Speed that was read or typed; left out where it is to be found.</param>
    /// <param name="pickup">Cylinder at whose line the clamp of the second channel sits.</param>
    /// <param name="cutOut">Of each file the cylinder that was cut out, with commas between; 0 where all ran.</param>
    /// <param name="bearing">A rolling bearing as JSON: elements, element, pitch, contact.</param>
    private static async Task<ListenAnswer> ListenAsync(
        Guid caseId,
        [FromForm] double? rpm,
        [FromForm] int? pickup,
        [FromForm] string? cutOut,
        [FromForm] string? bearing,
        IFormFileCollection files,
        Recorder recorder,
        CancellationToken cancel
    )
    {
        var engine = (await recorder.TableAsync(caseId, cancel)).Engine;
        var firings = Firings.Of(engine);
        if (files.Count is 0 or > MostFiles)
        {
            throw new ProblemException(Problem.Of("file", "server.no-sound"));
        }

        if (rpm is not null and not (>= CrankTrack.LeastRpm and <= CrankTrack.MostRpm))
        {
            throw new ProblemException(Problem.Of("rpm", "server.rpm-cannot", ("least", CrankTrack.LeastRpm), ("most", CrankTrack.MostRpm)));
        }

        var silenced = (cutOut ?? "")
            .Split(',')
            .Select(c => int.TryParse(c, out var n) ? n : 0)
            .Concat(Enumerable.Repeat(0, files.Count))
            .Take(files.Count)
            .ToArray();
        var cylinders = engine.Cylinders.Select(c => c.Number).ToArray();
        if (silenced.Append(pickup ?? 0).FirstOrDefault(c => c != 0 && !cylinders.Contains(c)) is not 0 and var strange)
        {
            throw new ProblemException(Problem.Of("cutOut", "server.no-such-cylinder", ("cylinder", strange), ("most", cylinders.Length)));
        }

        var orders = OrdersOf(bearing);
        var contents = new List<byte[]>();
        foreach (var file in files)
        {
            using var memory = new MemoryStream();
            await file.CopyToAsync(memory, cancel);
            contents.Add(memory.ToArray());
        }

        return await SoundWave.ReckonAsync(
            () =>
            {
                var heard = contents
                    .Select(
                        (c, i) =>
                            Listening.Listen(SoundWave.Read(c), firings, new ListenAsk(rpm, pickup, silenced[i] > 0 ? silenced[i] : null, orders))
                    )
                    .ToArray();
                return new ListenAnswer([.. heard.Select((h, i) => View(h, silenced[i] > 0))], CutOut(heard, silenced, cylinders));
            },
            cancel
        );
    }

    private static double[] OrdersOf(string? bearing)
    {
        if (string.IsNullOrWhiteSpace(bearing))
        {
            return [];
        }

        try
        {
            var g = JsonSerializer.Deserialize<RollingGeometry>(bearing, JsonSerializerOptions.Web)!;
            return [.. BearingOrders.Select(f => f.Of(g.Elements, g.Element, g.Pitch, g.Contact))];
        }
        catch (JsonException)
        {
            throw new ProblemException(Problem.Of("bearing", "server.no-bearing"));
        }
    }

    private static CutOutView? CutOut(Heard[] heard, int[] silenced, int[] cylinders)
    {
        if (silenced.All(s => s == 0))
        {
            return null;
        }

        try
        {
            var all = Array.IndexOf(silenced, 0);
            if (all < 0)
            {
                return new CutOutView([], 1, null, Fact.Of("sounds.no-knock-to-cut-out"));
            }

            var test = CutOutTest.Of(heard[all], [.. heard.Select((h, i) => (silenced[i], h)).Where(h => h.Item1 > 0)], cylinders);
            return new CutOutView(test.Results, test.Elsewhere, test.Whose, null);
        }
        catch (ProblemException e)
        {
            return new CutOutView([], 1, null, e.Problems[0].Text);
        }
    }

    private static HeardView View(Heard heard, bool cutOut)
    {
        var firings = heard.Firings;
        var origin = firings.At[0].Angle;
        var shift = (int)Math.Round(origin / TurnCircle.Step);
        double From(double angle) => (angle - origin + (2 * firings.Degrees)) % firings.Degrees;
        var stands = heard.Beat is NoiseBeat.Cycle or NoiseBeat.Turn or NoiseBeat.Either;
        var shown = heard.Spectrum.Orders.TakeWhile(o => o <= MostShown).Count();
        return new HeardView(
            heard.Beat,
            heard.Chance,
            heard.Track.MeanRpm(firings.Turns),
            heard.Track.Rival,
            heard.Circles[0].Cycles,
            firings.Degrees,
            heard.Placed,
            stands ? From(heard.Knock!.At * TurnCircle.Step) : null,
            heard.Knock?.Band ?? 0,
            stands ? heard.Knock!.Soon : null,
            heard.Whose,
            heard.Cylinders,
            [.. firings.At.Select(f => new FiringView(f.Cylinders, From(f.Angle), heard.Dead.Contains(f)))],
            [
                .. heard.Circles.Select(c => new CircleView(
                    c.Band.From,
                    c.Band.To,
                    [.. c.Mean.Select((_, i) => Math.Round(c.Mean[c.Wrapped(i + shift)], 3))]
                )),
            ],
            [.. heard.Lines.Select(l => new LineView(l.Order, l.Chance, l.Known is { } k ? NameOf(BearingOrders[k]) : null))],
            [.. heard.Spectrum.Orders.Take(shown).Select(o => Math.Round(o, 4))],
            [.. heard.Spectrum.Levels.Take(shown).Select(l => Math.Round(l, 5))],
            [
                .. heard.Stretches.Select(s => new StretchView(
                    Math.Round(s.Rpm),
                    [.. s.Levels.Take((int)(MostShown * firings.Turns)).Select(l => Math.Round(l, 4))]
                )),
            ],
            [.. heard.Doubts.Select(d => Fact.Of("sounds.doubt", ("doubt", d))), .. SoundSigns.Limits(heard)],
            SoundSigns.Of(heard, cutOut)
        );
    }

    // Orders that are shown, per turn.
    private const double MostShown = 10;
}

using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Engines;
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

/// <summary>What is to be listened to.</summary>
/// <param name="Sounds">Ids of recordings of the case.</param>
/// <param name="Bearing">A rolling bearing to listen for; null without one.</param>
public sealed record ListenRequest(IReadOnlyList<Guid> Sounds, RollingGeometry? Bearing);

/// <summary>One recording, listened to.</summary>
/// <param name="Heard">Null where it cannot be listened to.</param>
/// <param name="Wrong">Why it cannot.</param>
/// <param name="Do">What to do about that.</param>
public sealed record ListenedTo(Guid Sound, HeardView? Heard, Fact? Wrong, Fact? Do);

/// <param name="Together">Signs that only several recordings tell: with and without load, cold and warm, a cylinder cut out.</param>
public sealed record ListenAnswer(IReadOnlyList<ListenedTo> Heard, CutOutView? CutOut, IReadOnlyList<SoundSign> Together);

/// <summary>Listens to recordings of the engine before it comes apart. Nothing is written: what is heard is offered, and taken as findings.</summary>
public static class ListenEndpoints
{
    private const int MostAtOnce = 26;

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
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private static async Task<ListenAnswer> ListenAsync(Guid caseId, ListenRequest request, Recorder recorder, CancellationToken cancel)
    {
        var table = await recorder.TableAsync(caseId, cancel);
        var firings = Firings.Of(table.Engine);
        var asked = (request.Sounds ?? []).Distinct().ToArray();
        if (asked.Length is 0 or > MostAtOnce)
        {
            throw new ProblemException(Problem.Of("sounds", "server.nothing-to-listen-to", ("most", MostAtOnce)));
        }

        var db = recorder.Db;
        var sounds = await db.Set<Sound>().AsNoTracking().Where(s => s.CaseId == caseId && asked.Contains(s.Id)).ToDictionaryAsync(s => s.Id, cancel);
        var orders = request.Bearing is { } g ? BearingOrders.Select(f => f.Of(g.Elements, g.Element, g.Pitch, g.Contact)).ToArray() : [];
        var listened = new List<(Sound Sound, Heard? Heard, Problem? Wrong)>();
        foreach (var id in asked)
        {
            var sound = sounds.GetValueOrDefault(id) ?? throw Problems.NotHere("recording");
            // One at a time: a minute of it is as much as a large picture.
            var data = await db.Originals.Where(o => o.Sha256 == sound.Sha256).Select(o => o.Data).SingleOrDefaultAsync(cancel);
            try
            {
                var ask = SoundSigns.Ask(sound, orders);
                listened.Add(
                    data is null
                        ? (sound, null, Problem.Of("sounds", "server.recording-not-here"))
                        : (sound, await SoundWave.ReckonAsync(() => Listening.Listen(SoundWave.Read(data), firings, ask), cancel), null)
                );
            }
            catch (ProblemException e)
            {
                listened.Add((sound, null, e.Problems[0]));
            }
        }

        var heard = listened.Where(l => l.Heard is not null).Select(l => (l.Sound, Heard: l.Heard!)).ToArray();
        var cutOut = CutOut(heard, [.. table.Engine.Cylinders.Select(c => c.Number)]);
        return new ListenAnswer(
            [.. listened.Select(l => new ListenedTo(l.Sound.Id, l.Heard is { } h ? View(h, l.Sound, table) : null, l.Wrong?.Text, l.Wrong?.Remedy))],
            cutOut.View,
            [.. SoundSigns.Together(heard, table), .. cutOut.Test is { } test ? SoundSigns.Of(test, table) : []]
        );
    }

    private static (CutOutView? View, CutOutTest? Test) CutOut(IReadOnlyList<(Sound Sound, Heard Heard)> heard, IReadOnlyList<int> cylinders)
    {
        try
        {
            var test = SoundSigns.CutOut(heard, cylinders);
            return (test is null ? null : new CutOutView(test.Results, test.Elsewhere, test.Whose, null), test);
        }
        catch (ProblemException e)
        {
            return (new CutOutView([], 1, null, e.Problems[0].Text), null);
        }
    }

    private static HeardView View(Heard heard, Sound sound, AddressTable table) =>
        Shown(
            heard,
            [.. heard.Doubts.Select(d => Fact.Of("sounds.doubt", ("doubt", d))), .. SoundSigns.Limits(heard, sound)],
            SoundSigns.Of(heard, sound, table)
        );

    internal static HeardView Shown(Heard heard, IReadOnlyList<Fact> says, IReadOnlyList<SoundSign> signs)
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
            says,
            signs
        );
    }

    // Orders that are shown, per turn.
    private const double MostShown = 10;
}

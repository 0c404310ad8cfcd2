using VividSleuth.Core.Arrival;
using VividSleuth.Core.Sounds;
using VividSleuth.Core.Trace;
using VividSleuth.Store.Arrival;

namespace VividSleuth.Server.Arrival;

/// <summary>An engine to listen to: what is known of it, and what its sound looks like.</summary>
/// <param name="FiringOrder">Cylinders in turn.</param>
/// <param name="Clamp">Cylinder at whose line the clamp sits.</param>
/// <param name="Faults">Of which one is to be heard.</param>
public sealed record SoundPracticeView(
    IReadOnlyList<int> FiringOrder,
    bool TwoStroke,
    double Rpm,
    int Clamp,
    IReadOnlyList<DrawnFault> Faults,
    int Degrees,
    IReadOnlyList<FiringView> Firings,
    IReadOnlyList<CircleView> Circles,
    IReadOnlyList<double> Orders,
    IReadOnlyList<double> Levels
);

/// <summary>Engines to practise listening on: nothing is kept, the number says all.</summary>
public static class SoundPracticeEndpoints
{
    public static void MapSoundPractice(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/practice/sounds/{seed:int}").WithTags("arrival");
        group.MapGet("", ViewAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/wave", WaveAsync).Produces(StatusCodes.Status200OK, contentType: "audio/wav");
        group.MapPost("/guess", GuessAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static async Task<SoundPracticeView> ViewAsync(int seed, CancellationToken cancel)
    {
        var engine = SoundPractice.Of(Practice.Open(seed));
        var heard = await SoundWave.ReckonAsync(() => SoundPractice.Listen(engine), cancel);
        var shown = ListenEndpoints.Shown(heard, [], []);
        return new SoundPracticeView(
            [.. engine.Firings.At.SelectMany(f => f.Cylinders)],
            engine.Firings.Turns == 1,
            engine.Rpm,
            engine.Pickup,
            SoundPractice.FaultsOf(engine.Firings),
            heard.Firings.Degrees,
            // Which one is missing is for the trainee to hear.
            [.. shown.Firings.Select(f => f with { Missing = false })],
            shown.Circles,
            shown.Orders,
            shown.Levels
        );
    }

    private static async Task<IResult> WaveAsync(int seed, CancellationToken cancel)
    {
        var engine = SoundPractice.Of(Practice.Open(seed));
        // One channel: the pulses of the clamp are no part of what is heard.
        var wave = await SoundWave.ReckonAsync(() => SoundWave.Write(engine.Draw() with { Pickup = null }), cancel);
        return Results.File(wave, "audio/wav", $"engine-{seed}.wav", enableRangeProcessing: true);
    }

    private static async Task<SoundScore> GuessAsync(int seed, SoundGuess guess, CancellationToken cancel)
    {
        var engine = SoundPractice.Of(Practice.Open(seed));
        return SoundPractice.Score(engine, await SoundWave.ReckonAsync(() => SoundPractice.Listen(engine), cancel), guess);
    }
}

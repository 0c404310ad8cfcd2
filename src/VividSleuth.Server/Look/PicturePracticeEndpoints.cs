using Microsoft.Extensions.Caching.Memory;
using VividSleuth.Core.Look;
using VividSleuth.Core.Pictures;
using VividSleuth.Core.Trace;
using VividSleuth.Store.Look;

namespace VividSleuth.Server.Look;

/// <summary>A drawn photograph to measure in.</summary>
/// <param name="Task">What is to be measured.</param>
/// <param name="Kind">What it shows.</param>
public sealed record PicturePracticeView(PictureTask Task, SceneKind Kind, int Width, int Height);

/// <summary>Photographs to practise measuring on: nothing is kept, the number says all.</summary>
public static class PicturePracticeEndpoints
{
    public static void MapPicturePractice(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/practice/pictures/{seed:int}").WithTags("pictures");
        group.MapGet("", ViewAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapGet("/view", PictureAsync).Produces(StatusCodes.Status200OK, contentType: "image/jpeg");
        group.MapPost("/measure", MeasureAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        group.MapPost("/guess", GuessAsync).ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static Task<PicturePracticeView> ViewAsync(int seed, CancellationToken cancel) =>
        Drawn(seed, scene => new PicturePracticeView(scene.Task, scene.Kind, scene.Picture.Width, scene.Picture.Height), cancel);

    private static async Task<IResult> PictureAsync(int seed, CancellationToken cancel) =>
        Results.File(await Drawn(seed, scene => PictureRaster.ToJpeg(scene.Picture), cancel), "image/jpeg");

    private static Task<PictureAnswer> MeasureAsync(int seed, PictureAsk ask, CancellationToken cancel) =>
        Drawn(seed, scene => PictureEndpoints.Answer(scene.Picture, ask with { Task = scene.Task }, Guid.Empty, null), cancel);

    private static Task<PictureScore> GuessAsync(int seed, PictureAsk ask, CancellationToken cancel) =>
        Drawn(
            seed,
            scene =>
            {
                var answer = PictureEndpoints.Answer(scene.Picture, ask with { Task = scene.Task }, Guid.Empty, null);
                return PicturePractice.Score(scene, new Measured(answer.Value, answer.Expanded));
            },
            cancel
        );

    // What is dragged asks again and again, and drawing takes longer than measuring.
    private static readonly MemoryCache Kept = new(new MemoryCacheOptions { SizeLimit = 4 });

    /// <summary>As it comes out of the camera, and as it is shown.</summary>
    private static DrawnScene Drawn(int seed)
    {
        var made = PicturePractice.Of(seed);
        return made with { Picture = PictureRaster.Of(PictureRaster.ToJpeg(made.Picture)) };
    }

    private static Task<T> Drawn<T>(int seed, Func<DrawnScene, T> of, CancellationToken cancel)
    {
        var number = Practice.Open(seed);
        return PictureRaster.ReckonAsync(
            [],
            _ =>
                of(
                    Kept.GetOrCreate(
                        number,
                        entry =>
                        {
                            entry.Size = 1;
                            return Drawn(number);
                        }
                    )!
                ),
            cancel
        );
    }
}

using System.CommandLine;
using System.Text.Json;
using System.Text.Json.Serialization;
using VividSleuth.Core;
using VividSleuth.Core.Pictures;
using VividSleuth.Store.Look;

namespace VividSleuth.Cli.StandIns;

/// <summary>`sleuth draw`: the simulated camera. It draws a photograph of a part beside the scale card, and tells what is true of it.</summary>
public static class DrawCommand
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    public static Command Build(TextWriter output)
    {
        var kind = new Argument<SceneKind>("scene") { Description = "Hatch, RingGap, Strip, Grooves or Particles." };
        var file = new Argument<FileInfo>("file") { Description = "Where the photograph (JPEG) is written." };
        var seed = new Option<int>("--seed") { Description = "The same seed draws the same photograph.", DefaultValueFactory = _ => 1 };
        var tilt = new Option<double>("--tilt") { Description = "By how much it is seen at a slant, degrees.", DefaultValueFactory = _ => 12 };
        var noise = new Option<double>("--noise") { Description = "Noise of each pixel, share of white.", DefaultValueFactory = _ => 0.02 };
        var glare = new Option<bool>("--glare") { Description = "With a lamp reflected in it." };
        var smaller = new Option<double>("--smaller")
        {
            Description = "By how many times fewer pixels it has each way.",
            DefaultValueFactory = _ => 1,
        };
        var command = new Command("draw", "A simulated photograph of a part beside the scale card, whose figure is known.")
        {
            kind,
            file,
            seed,
            tilt,
            noise,
            glare,
            smaller,
        };
        command.SetAction(
            async (parsed, cancel) =>
            {
                var scene = DrawnScenes.Draw(
                    parsed.GetValue(kind),
                    parsed.GetValue(seed),
                    Math.Clamp(parsed.GetValue(tilt), 0, 60),
                    Math.Clamp(parsed.GetValue(noise), 0, 1),
                    parsed.GetValue(glare),
                    Math.Clamp(parsed.GetValue(smaller), 0.5, 10)
                );
                var jpeg = PictureRaster.ToJpeg(scene.Picture);
                await File.WriteAllBytesAsync(parsed.GetValue(file)!.FullName, jpeg, cancel);
                var measured = Measured(PictureRaster.Of(jpeg), scene);
                await output.WriteLineAsync(
                    JsonSerializer.Serialize(
                        new
                        {
                            scene = scene.Kind,
                            scene.Task,
                            scene.Truth,
                            measured,
                            points = scene.Points.SelectMany(p => new[] { (p.X + 0.5) / scene.Picture.Width, (p.Y + 0.5) / scene.Picture.Height }),
                        },
                        Json
                    )
                );
                return 0;
            }
        );
        return command;
    }

    /// <summary>What the program measures in it; null where it cannot.</summary>
    private static object? Measured(Raster picture, DrawnScene scene)
    {
        if (CardFinder.Find(picture) is not [var card])
        {
            return null;
        }

        var plane = PicturePlane.Of(card, picture.Width, picture.Height);
        try
        {
            var figure = PictureReckoner.Measure(picture, plane, scene.Task, scene.Points, 0, "drawn").Figure;
            return new
            {
                figure.Value,
                figure.Standard,
                Card = card.Number,
                plane.Residual,
                plane.Tilt,
            };
        }
        catch (ProblemException)
        {
            return null;
        }
    }
}

using System.CommandLine;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using VividSleuth.Core;
using VividSleuth.Core.Sounds;
using VividSleuth.Store.Arrival;

namespace VividSleuth.Cli.StandIns;

/// <summary>`sleuth sound`: the simulated microphone. It records an engine with a known fault, and tells what is true of it and what is heard in it.</summary>
public static class SoundCommand
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    public static Command Build(TextWriter output)
    {
        var fault = new Argument<DrawnFault>("fault") { Description = "Sound, OncePerCycle, OncePerTurn, DoubleRap, Rolling, Misfire or Puffs." };
        var file = new Argument<FileInfo>("file") { Description = "Where the recording (WAV) is written." };
        var order = new Option<string>("--firing-order") { Description = "Cylinders in the order of firing.", DefaultValueFactory = _ => "1-3-4-2" };
        var angles = new Option<string?>("--angles") { Description = "Of an uneven engine the crank angle of each, such as 0-405." };
        var two = new Option<bool>("--two-stroke") { Description = "It fires at every turn." };
        var cylinder = new Option<int>("--cylinder") { Description = "Whose the fault is.", DefaultValueFactory = _ => 1 };
        var rpm = new Option<double>("--rpm") { DefaultValueFactory = _ => 1500 };
        var to = new Option<double?>("--to-rpm") { Description = "Of a run-up the speed at its end." };
        var seconds = new Option<double>("--seconds") { DefaultValueFactory = _ => 10 };
        var decibels = new Option<double>("--decibels") { Description = "How far the engine is above the noise.", DefaultValueFactory = _ => 12 };
        var cut = new Option<int>("--cut-out") { Description = "Cylinder that is silenced." };
        var pickup = new Option<int>("--pickup") { Description = "Cylinder at whose line the clamp of the second channel sits." };
        var knock = new Option<double>("--knock") { Description = "How many times as loud as drawn the noise is.", DefaultValueFactory = _ => 1 };
        var seed = new Option<int>("--seed") { Description = "The same seed records the same engine.", DefaultValueFactory = _ => 1 };
        var rate = new Option<int>("--rate") { DefaultValueFactory = _ => 44100 };
        var command = new Command("sound", "A simulated recording of an engine whose fault is known.")
        {
            fault,
            file,
            order,
            angles,
            two,
            cylinder,
            rpm,
            to,
            seconds,
            decibels,
            cut,
            pickup,
            knock,
            seed,
            rate,
        };
        command.SetAction(
            async (parsed, cancel) =>
            {
                var degrees = parsed.GetValue(two) ? 360 : 720;
                var cylinders = parsed.GetValue(order)!.Split('-').Select(c => int.Parse(c, CultureInfo.InvariantCulture)).ToArray();
                var at = parsed.GetValue(angles)?.Split('-').Select(a => double.Parse(a, CultureInfo.InvariantCulture)).ToArray();
                var firings = new Firings(
                    degrees,
                    [.. cylinders.Select((c, i) => new Firing([c], at is null ? (double)degrees / cylinders.Length * i : at[i]))]
                );
                var engine = new DrawnEngine(
                    firings,
                    parsed.GetValue(fault),
                    parsed.GetValue(cylinder),
                    parsed.GetValue(seed),
                    parsed.GetValue(rpm),
                    parsed.GetValue(to),
                    Math.Clamp(parsed.GetValue(seconds), Recording.Shortest, Recording.Longest),
                    parsed.GetValue(decibels),
                    parsed.GetValue(cut),
                    parsed.GetValue(pickup),
                    Rate: Math.Clamp(parsed.GetValue(rate), Recording.LeastRate, 96_000),
                    Knock: parsed.GetValue(knock)
                );
                var wave = SoundWave.Write(engine.Draw());
                await File.WriteAllBytesAsync(parsed.GetValue(file)!.FullName, wave, cancel);
                await output.WriteLineAsync(
                    JsonSerializer.Serialize(
                        new
                        {
                            engine.Fault,
                            engine.Cylinder,
                            engine.Rpm,
                            heard = HeardIn(wave, engine),
                        },
                        Json
                    )
                );
                return 0;
            }
        );
        return command;
    }

    /// <summary>What the program hears in it; null where it cannot.</summary>
    private static object? HeardIn(byte[] wave, DrawnEngine engine)
    {
        try
        {
            var heard = Listening.Listen(
                SoundWave.Read(wave),
                engine.Firings,
                new ListenAsk(
                    engine.ToRpm is null ? engine.Rpm : null,
                    engine.Pickup > 0 ? engine.Pickup : null,
                    engine.CutOut > 0 ? engine.CutOut : null,
                    [engine.Order],
                    engine.Fault == DrawnFault.Puffs ? ListenFor.Puffs : ListenFor.Knocks
                )
            );
            return new
            {
                heard.Beat,
                heard.Chance,
                heard.Whose,
                rpm = Math.Round(heard.Track.MeanRpm(engine.Firings.Turns)),
                missing = heard.Dead.SelectMany(d => d.Cylinders),
                heard.Doubts,
            };
        }
        catch (ProblemException)
        {
            return null;
        }
    }
}

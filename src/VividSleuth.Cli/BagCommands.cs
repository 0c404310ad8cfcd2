using System.CommandLine;
using System.Text.Json;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Dossier;
using VividSleuth.Store.Dossier;
using VividSleuth.Words;

namespace VividSleuth.Cli;

/// <summary>`sleuth verify`: a sealed bag held against its manifests and its signature, with no database and no network.</summary>
public static class BagCommands
{
    /// <summary>A case of any size: whoever asks here fills no disk but his own.</summary>
    private static readonly BagBounds Bounds = new(Files: 100_000, Bytes: 1L << 40, Text: 1L << 28);

    public static Command Verify(TextWriter output, TextWriter errors)
    {
        var bag = new Argument<string>("bag") { Description = "A zip file, or the folder that it was unpacked into." };
        var key = new Option<string?>("--key") { Description = "The key that the shop says is its own: the digits of its SHA-256." };
        var asJson = new Option<bool>("--json") { Description = "Print JSON." };
        var command = new Command("verify", "Whether a sealed bag is as it was sealed, and which file is not. Exit codes: 0 sound, 1 not, 2 no bag.")
        {
            bag,
            key,
            asJson,
        };
        command.SetAction(
            async (parsed, cancel) =>
            {
                try
                {
                    using var opened = Open(parsed.GetValue(bag)!);
                    var check = await BagCheck.OfAsync(opened, cancel);
                    if (parsed.GetValue(key) is { } wanted && !SameKey(wanted, check.Fingerprint))
                    {
                        var other = Problem.Of(
                            BagSeal.PublicKeyFile,
                            "bag.other-key",
                            ("is", check.Fingerprint.Length > 0 ? check.Fingerprint : "—")
                        );
                        check = check with { Problems = [.. check.Problems, other] };
                    }

                    await output.WriteLineAsync(
                        parsed.GetValue(asJson) ? JsonSerializer.Serialize(check, Spoken.Json(Sentences.English)) : Told(check)
                    );
                    return check.IsSound ? 0 : 1;
                }
                catch (ProblemException e)
                {
                    foreach (var problem in e.Problems)
                    {
                        await errors.WriteLineAsync(Spoken.Line(problem));
                    }

                    return 2;
                }
                catch (Exception e) when (e is IOException or UnauthorizedAccessException)
                {
                    await errors.WriteLineAsync(e.Message);
                    return 2;
                }
            }
        );
        return command;
    }

    private static Bag Open(string path) =>
        Directory.Exists(path) ? Bag.OfFolder(path, Bounds)
        : File.Exists(path) ? Bag.OfZip(File.OpenRead(path), Bounds)
        : throw new ProblemException(Problem.Of("", "bag.not-there", ("path", path)));

    private static bool SameKey(string wanted, string found)
    {
        var digits = new string([.. wanted.Where(char.IsAsciiHexDigit)]).ToLowerInvariant();
        return digits.Length == found.Length && digits == found;
    }

    private static string Told(BagCheck check)
    {
        var lines = new List<string> { $"{check.Name}: {check.Files} files, {check.Bytes} bytes" };
        lines.AddRange(check.Info.Select(i => $"  {i.Label}: {i.Value}"));
        lines.AddRange(check.Problems.Select(Spoken.Line));
        lines.Add(
            check switch
            {
                { IsSound: false } => $"NOT AS IT WAS SEALED: {check.Problems.Count} things are wrong, as told above.",
                { Signature: BagSignature.None } => "Whole, and signed by nobody: anyone can have packed it.",
                _ => $"Sound: nothing was changed since it was signed with the key {check.Fingerprint}. Ask the shop whether that is its key.",
            }
        );
        return string.Join(Environment.NewLine, lines);
    }
}

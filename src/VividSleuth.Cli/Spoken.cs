using System.Text.Json;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Words;

namespace VividSleuth.Cli;

/// <summary>How the command line tells what the core says.</summary>
internal static class Spoken
{
    /// <summary>A problem as a line: field, what is wrong, what to do.</summary>
    public static string Line(Problem problem)
    {
        var said = $"{Sentences.English.Say(problem.Text)} {Sentences.English.Say(problem.Remedy)}";
        return problem.Field.Length > 0 ? $"{problem.Field}: {said}" : said;
    }

    public static JsonSerializerOptions Json(Sentences sentences) => new(CaseFile.Json) { Converters = { new FactJson(() => sentences) } };
}

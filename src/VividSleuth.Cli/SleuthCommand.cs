using System.CommandLine;
using System.Text.Json;
using VividSleuth.Core;
using VividSleuth.Core.Cases;
using VividSleuth.Core.Dossier;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Cli;

/// <summary>
/// `sleuth`: the answers of the program on a case file, with no database. Exit codes: 0 in order, 1 something needs attention,
/// 2 the file cannot be used.
/// </summary>
public static class SleuthCommand
{
    public static RootCommand Build(TextWriter output, TextWriter errors)
    {
        var root = new RootCommand("Answers on a case file, with no database.");
        root.Subcommands.Add(Sub("trace", "Rank what may have started it.", output, errors, WriteTrace, a => a.Trace));
        root.Subcommands.Add(
            Sub(
                "check",
                "Sizes, grades, mates and loose ends.",
                output,
                errors,
                WriteCheck,
                a => new
                {
                    a.Gauge,
                    a.Compression,
                    a.Standing.LooseEnds,
                }
            )
        );
        root.Subcommands.Add(Sub("plan", "The order of the strip.", output, errors, WritePlan, a => a.Strip));
        var schema = new Command("schema", "Print the JSON Schema of a case file.");
        schema.SetAction(_ =>
        {
            output.Write(CaseFile.Schema());
            return 0;
        });
        root.Subcommands.Add(schema);
        return root;
    }

    private static Command Sub(
        string name,
        string does,
        TextWriter output,
        TextWriter errors,
        Func<CaseAnswers, TextWriter, int> write,
        Func<CaseAnswers, object> json
    )
    {
        var file = new Argument<FileInfo>("file") { Description = "A case file." };
        var asJson = new Option<bool>("--json") { Description = "Print JSON." };
        var command = new Command(name, does);
        command.Arguments.Add(file);
        command.Options.Add(asJson);
        command.SetAction(parsed =>
        {
            try
            {
                var read = CaseFile.FromJson(File.ReadAllText(parsed.GetValue(file)!.FullName));
                var answers = CaseAnswers.Of(read.Case, KnowledgeBase.BuiltIn, read.Instruments, DateOnly.FromDateTime(DateTime.Now));
                if (!parsed.GetValue(asJson))
                {
                    return write(answers, output);
                }

                output.WriteLine(JsonSerializer.Serialize(json(answers), CaseFile.Json));
                return 0;
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                errors.WriteLine($"The file cannot be read: {e.Message} Give the path of a case file.");
                return 2;
            }
            catch (ProblemException e)
            {
                foreach (var problem in e.Problems)
                {
                    errors.WriteLine(problem.Field.Length > 0 ? $"{problem.Field}: {problem}" : problem.ToString());
                }

                return 2;
            }
        });
        return command;
    }

    private static int WriteTrace(CaseAnswers answers, TextWriter output)
    {
        var trace = answers.Trace;
        foreach (var (hypothesis, i) in trace.Ranking.Take(5).Select((h, i) => (h, i)))
        {
            output.WriteLine($"{i + 1}. {hypothesis.Probability, 6:P1}  {hypothesis.Place, -4} {hypothesis.Name}");
            foreach (var weight in hypothesis.For.Take(4))
            {
                output.WriteLine($"           + {weight.Decibans, 5:0.0} dB  {weight.Name} on {weight.Place}: {weight.Words}");
            }

            foreach (var weight in hypothesis.Against.Take(3))
            {
                output.WriteLine($"           − {-weight.Decibans, 5:0.0} dB  {weight.Name} on {weight.Place}: {weight.Words}");
            }
        }

        output.WriteLine($"   {trace.NoneOfThese, 6:P1}  None of these");
        if (trace.NextChecks.Count > 0)
        {
            var next = trace.NextChecks[0];
            output.WriteLine($"Next: {next.Name} on {next.Place}, {next.Minutes:0} min. {next.How}");
        }

        foreach (var assumed in trace.Assumed.Concat(trace.Contradictions))
        {
            output.WriteLine($"Note: {assumed}");
        }

        return 0;
    }

    private static int WriteCheck(CaseAnswers answers, TextWriter output)
    {
        foreach (var figure in answers.Gauge.Figures.Where(f => f.Conformity is not null))
        {
            var limit = figure.Limit!;
            var stands = limit.IsRuleOfThumb ? $"{figure.Conformity} the rule of thumb" : $"{figure.Conformity} {limit.SourceText}";
            output.WriteLine($"{figure.Place, -4} {figure.Name}: {figure.Value:0.000} ± {figure.Expanded:0.000}  {stands}");
        }

        foreach (var line in answers.Compression.Says.Concat(answers.Gauge.Notes))
        {
            output.WriteLine(line);
        }

        var wrong = answers.Gauge.Grades.Where(g => g.Loud).Select(g => $"{g.Place} WRONG SIZE: {g.Words}").ToArray();
        var loose = answers.Standing.LooseEnds.Select(l => $"Loose: {l.Text}").ToArray();
        foreach (var line in wrong.Concat(loose))
        {
            output.WriteLine(line);
        }

        return wrong.Length + loose.Length > 0 ? 1 : 0;
    }

    private static int WritePlan(CaseAnswers answers, TextWriter output)
    {
        foreach (var step in answers.Strip.Steps)
        {
            var state = step.State switch
            {
                StepState.Done => "done",
                StepState.Skipped => "skipped",
                _ => "",
            };
            output.WriteLine($"{state, -8}{step.Name, -40}{step.Attitude, -9}{step.Expected, 4} fasteners {step.Minutes, 4:0} min");
        }

        return 0;
    }
}

using System.CommandLine;
using System.Text.Json;
using VividSleuth.Cli.StandIns;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Words;

namespace VividSleuth.Cli;

/// <summary>
/// `sleuth`: the answers of the program on a case file, with no database; and the whole shop as files and back. Exit codes: 0 in order, 1 something needs attention,
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
                    a.Progress.LooseEnds,
                }
            )
        );
        root.Subcommands.Add(Sub("plan", "The order of the strip.", output, errors, WritePlan, a => a.Strip));
        root.Subcommands.Add(Sub("sheet", "All figures as a table (CSV).", output, errors, WriteSheet, a => a.Gauge));
        root.Subcommands.Add(Sub("next", "What to look at next, by information per minute.", output, errors, WriteNext, a => a.Trace.NextChecks));
        root.Subcommands.Add(KnowledgeCommands.Check(output, errors));
        root.Subcommands.Add(KnowledgeCommands.Practice(output, errors));
        foreach (var list in KnowledgeCommands.Lists(output))
        {
            root.Subcommands.Add(list);
        }

        root.Subcommands.Add(Reckon(output, errors));
        root.Subcommands.Add(GaugeCommand.Build(output));
        root.Subcommands.Add(DrawCommand.Build(output));
        root.Subcommands.Add(SoundCommand.Build(output));
        root.Subcommands.Add(PrinterCommand.Build(output));
        root.Subcommands.Add(SupplierCommand.Parts(output));
        root.Subcommands.Add(SupplierCommand.MachineShop(output));
        root.Subcommands.Add(WeatherCommand.Build(output));
        root.Subcommands.Add(BackupCommands.Backup(output, errors));
        root.Subcommands.Add(SeedCommand.Seed(output, errors));
        root.Subcommands.Add(BackupCommands.Restore(output, errors));
        root.Subcommands.Add(BackupCommands.Verify(output, errors));
        root.Subcommands.Add(BagCommands.Verify(output, errors));
        var kind = new Option<bool>("--kind") { Description = "Of the file of a kind of engine." };
        var schema = new Command("schema", "Print the JSON Schema of a case file, or of the file of a kind of engine.") { kind };
        schema.SetAction(parsed =>
        {
            output.Write(parsed.GetValue(kind) ? KindFile.Schema() : CaseFile.Schema());
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
        Func<CaseAnswers, TextWriter, Sentences, int> write,
        Func<CaseAnswers, object> json
    )
    {
        var file = new Argument<FileInfo>("file") { Description = "A case file." };
        var asJson = new Option<bool>("--json") { Description = "Print JSON." };
        var command = new Command(name, does);
        command.Arguments.Add(file);
        command.Options.Add(asJson);
        var own = new Option<FileInfo?>("--causes") { Description = "A shop's own causes (YAML), as the program exports them." };
        command.Options.Add(own);
        var scripts = new Option<FileInfo?>("--scripts") { Description = "A shop's own strip scripts (YAML), as the program exports them." };
        command.Options.Add(scripts);
        var inch = new Option<bool>("--inch") { Description = "Tell lengths in inches." };
        command.Options.Add(inch);
        command.SetAction(parsed =>
        {
            try
            {
                var sentences = parsed.GetValue(inch) ? Sentences.EnglishInInches : Sentences.English;
                var shipped = KnowledgeBase.BuiltIn;
                var causes = parsed.GetValue(own) is { } c ? OwnCauses.Checked(CauseFile.Read(c.Name, File.ReadAllText(c.FullName)), shipped) : [];
                var strips = parsed.GetValue(scripts) is { } s
                    ? OwnScripts.Checked(ScriptFile.Read(s.Name, File.ReadAllText(s.FullName)), shipped)
                    : [];
                var knowledge = causes.Count + strips.Count > 0 ? shipped.With(causes, strips) : shipped;
                var read = CaseFile.FromJson(File.ReadAllText(parsed.GetValue(file)!.FullName)).KnownTo(knowledge);
                var answers = CaseAnswers.Of(read.Case, knowledge, read.Instruments, DateOnly.FromDateTime(DateTime.Now));
                if (!parsed.GetValue(asJson))
                {
                    return write(answers, output, sentences);
                }

                output.WriteLine(JsonSerializer.Serialize(json(answers), Spoken.Json(sentences)));
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
                    errors.WriteLine(Spoken.Line(problem));
                }

                return 2;
            }
        });
        return command;
    }

    /// <summary>A bench reckoner: sleuth reckon ratio bore=88 stroke=80 …; figures left out are those of its example.</summary>
    private static Command Reckon(TextWriter output, TextWriter errors)
    {
        var id = new Argument<string?>("id") { Description = "Which reckoner; without it they are listed.", Arity = ArgumentArity.ZeroOrOne };
        var figures = new Argument<string[]>("figures") { Description = "name=figure, as typed at the bench.", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("reckon", "One formula of the bench, without a case.");
        command.Arguments.Add(id);
        command.Arguments.Add(figures);
        command.SetAction(parsed =>
        {
            if (parsed.GetValue(id) is not { } asked)
            {
                foreach (var r in BenchReckoners.All)
                {
                    output.WriteLine(
                        $"{r.Id, -18} {Sentences.English.Say(r.Name)} ({string.Join(", ", r.Inputs.Select(i => $"{i.Id}={i.Example}"))})"
                    );
                }

                return 0;
            }

            if (BenchReckoners.Find(asked) is not { } reckoner)
            {
                errors.WriteLine($"There is no reckoner “{asked}”. Run sleuth reckon without a name for the list.");
                return 2;
            }

            var typed = reckoner.Inputs.ToDictionary(i => i.Id, i => i.Example, StringComparer.Ordinal);
            foreach (var figure in parsed.GetValue(figures) ?? [])
            {
                var at = figure.IndexOf('=', StringComparison.Ordinal);
                if (at < 1 || !typed.ContainsKey(figure[..at]))
                {
                    errors.WriteLine($"“{figure}” is not asked for. Give {string.Join(", ", typed.Keys)} as name=figure.");
                    return 2;
                }

                typed[figure[..at]] = figure[(at + 1)..];
            }

            try
            {
                foreach (var result in reckoner.Reckon(typed))
                {
                    var value = result.Value is { } v
                        ? $"{Math.Round(v, result.Places)} {QuantityParser.BaseUnit(result.Quantity).Replace("x", "", StringComparison.Ordinal)} "
                        : "";
                    output.WriteLine($"{Sentences.English.Say(result.Name)}: {value}{Sentences.English.Say(result.Words)}".TrimEnd());
                }

                output.WriteLine($"{reckoner.Equation}. Source: {reckoner.Source}.");
                return 0;
            }
            catch (ProblemException e)
            {
                errors.WriteLine(Spoken.Line(e.Problems[0]));
                return 2;
            }
        });
        return command;
    }

    private static int WriteNext(CaseAnswers answers, TextWriter output, Sentences sentences)
    {
        foreach (var check in answers.Trace.NextChecks)
        {
            var soon = check.LostNext.Length > 0 ? $" The next step destroys it: {check.LostNext}." : "";
            var lost = check.DestroyedBy.Count > 0 ? $" Before {string.Join(", ", check.DestroyedBy)}." : "";
            output.WriteLine(
                $"{check.Place, -4} {check.Name}, {check.Minutes:0} min: {1000 * check.BitsPerMinute:0} mbit a minute. {check.About} at {check.AboutPlace}, now {Percent(check.Now)}: found {Percent(check.IfPresent)}, not there {Percent(check.IfAbsent)}. With {check.With}. {check.How}{lost}{soon}"
            );
        }

        return 0;
    }

    private static int WriteSheet(CaseAnswers answers, TextWriter output, Sentences sentences)
    {
        output.Write(GaugeTables.SheetCsv(answers.Gauge, sentences.Say));
        return 0;
    }

    /// <summary>A probability as a person says it; never a flat 0 or 100.</summary>
    private static string Percent(double p) =>
        p > 0.995 ? ">99 %"
        : p < 0.005 ? "<1 %"
        : $"{100 * p:0} %";

    private static int WriteTrace(CaseAnswers answers, TextWriter output, Sentences sentences)
    {
        var trace = answers.Trace;
        foreach (var seen in trace.Established)
        {
            output.WriteLine($"Established  {seen.Place, -4} {seen.Name}: {seen.SignName} on {seen.SignPlace}, {sentences.Say(seen.Words)}");
            foreach (var by in seen.By.Take(3))
            {
                output.WriteLine($"           brought about by {by.Name} ({by.Place}), {Percent(by.Probability)}");
            }
        }

        foreach (var (hypothesis, i) in trace.Ranking.Take(5).Select((h, i) => (h, i)))
        {
            output.WriteLine($"{i + 1}. {Percent(hypothesis.Probability), 6}  {hypothesis.Place, -4} {hypothesis.Name}");
            if (hypothesis.KindOf.Length > 0 && hypothesis.KindOf != hypothesis.Name)
            {
                output.WriteLine($"           {Percent(hypothesis.Together), 6}  with its kin: {hypothesis.KindOf}");
            }

            foreach (var kind in hypothesis.Kinds)
            {
                output.WriteLine($"           {Percent(kind.Probability), 6}  of it {kind.Name} ({kind.Place})");
            }

            foreach (var then in hypothesis.Then)
            {
                output.WriteLine($"           {Percent(then.Probability), 6}  and then {then.Name} ({then.Place})");
            }

            foreach (var weight in hypothesis.For.Take(4))
            {
                output.WriteLine($"           + {weight.Decibans, 5:0.0} dB  {weight.Name} on {weight.Place}: {sentences.Say(weight.Words)}");
            }

            foreach (var weight in hypothesis.Against.Take(3))
            {
                output.WriteLine($"           − {-weight.Decibans, 5:0.0} dB  {weight.Name} on {weight.Place}: {sentences.Say(weight.Words)}");
            }
        }

        if (trace.Ranking.Count == 0)
        {
            output.WriteLine("Nothing that was found speaks for a cause known here.");
        }

        output.WriteLine($"   {Percent(trace.NoneOfThese), 6}  None of these");
        output.WriteLine($"   {Percent(trace.Unknown), 6}  Something unknown here has a part in it");
        var alone = trace.Damage.Where(d => d.Link < 0).ToArray();
        if (alone.Length > 0)
        {
            output.WriteLine($"Unexplained: {string.Join("; ", alone.Select(d => $"{d.Name} on {d.Place}"))}");
        }

        foreach (var ask in trace.Ask)
        {
            output.WriteLine(
                $"Ask: {ask.Question} “{ask.About}” at {ask.AboutPlace}, now {Percent(ask.Now)}: yes {Percent(ask.IfSo)}, no {Percent(ask.IfNot)}."
            );
        }

        if (trace.NextChecks.Count > 0)
        {
            var next = trace.NextChecks[0];
            output.WriteLine($"Next: {next.Name} on {next.Place}, {next.Minutes + next.Access:0} min. {next.How}");
        }

        foreach (var assumed in trace.Assumed.Concat(trace.Contradictions))
        {
            output.WriteLine($"Note: {sentences.Say(assumed)}");
        }

        return 0;
    }

    private static int WriteCheck(CaseAnswers answers, TextWriter output, Sentences sentences)
    {
        var judged = answers.Gauge.Figures.Where(f => f.Conformity is not null).ToArray();
        foreach (var figure in judged.Where(f => f.Conformity != Conformity.Inside))
        {
            var limit = figure.Limit!;
            var stands = limit.IsRuleOfThumb ? $"{figure.Conformity} the rule of thumb" : $"{figure.Conformity} {sentences.Say(limit.SourceText)}";
            var value = sentences.Say(new Amount(figure.Value, figure.Quantity, 3), unit: false);
            var uncertainty = sentences.Say(new Amount(figure.Expanded, figure.Quantity, 3));
            output.WriteLine($"{figure.Place, -4} {figure.Name}: {value} ± {uncertainty}  {stands}. {sentences.Say(figure.Decides)}".TrimEnd());
        }

        output.WriteLine($"{judged.Count(f => f.Conformity == Conformity.Inside)} of {judged.Length} figures inside their limit or rule of thumb.");
        foreach (var plan in answers.Verdict.Plans)
        {
            output.WriteLine(sentences.Say(plan.Words));
        }

        foreach (var line in answers.Compression.Says.Concat(answers.Gauge.Notes))
        {
            output.WriteLine(sentences.Say(line));
        }

        var wrong = answers.Gauge.Grades.Where(g => g.Loud).Select(g => $"{g.Place} WRONG SIZE: {sentences.Say(g.Words)}").ToArray();
        var loose = answers.Progress.LooseEnds.Select(l => $"Loose: {sentences.Say(l.Text)}").ToArray();
        foreach (var line in wrong.Concat(loose))
        {
            output.WriteLine(line);
        }

        return wrong.Length + loose.Length > 0 ? 1 : 0;
    }

    private static int WritePlan(CaseAnswers answers, TextWriter output, Sentences sentences)
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

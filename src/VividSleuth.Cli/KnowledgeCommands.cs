using System.CommandLine;
using System.Text.Json;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Trace;
using VividSleuth.Words;

namespace VividSleuth.Cli;

/// <summary>`sleuth check-knowledge`, `sleuth practice`, and the lists of names: signs, places, risks and causes.</summary>
public static class KnowledgeCommands
{
    /// <summary>Reads a folder of knowledge, or what ships, and says what is wrong with it. 0 in order, 1 remarks, 2 unreadable.</summary>
    public static Command Check(TextWriter output, TextWriter errors)
    {
        var folder = new Argument<DirectoryInfo?>("folder")
        {
            Description = "A folder laid out as knowledge/; without it what ships is read.",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var command = new Command("check-knowledge", "Unreachable causes, causes that no sign tells apart, unknown names, missing provenance.");
        command.Arguments.Add(folder);
        command.SetAction(parsed =>
        {
            KnowledgeBase knowledge;
            try
            {
                knowledge = parsed.GetValue(folder) is { } given
                    ? CheckedKnowledge.Load(
                        given.FullName,
                        Directory.EnumerateFiles(given.FullName, "*.yaml", SearchOption.AllDirectories),
                        File.ReadAllText
                    )
                    : KnowledgeBase.BuiltIn;
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                errors.WriteLine($"The folder cannot be read: {e.Message} Give the path of a knowledge folder.");
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

            var remarks = CauseReview.Of(knowledge);
            foreach (var remark in remarks.OrderByDescending(r => r.Serious))
            {
                output.WriteLine($"{(remark.Serious ? "mend" : "note")}  {remark.About}: {Sentences.English.Say(remark.Text)}");
            }

            output.WriteLine(
                $"{knowledge.Causes.Count} causes, {knowledge.Signs.Count} signs, {remarks.Count(r => r.Serious)} to mend, {remarks.Count(r => !r.Serious)} notes."
            );
            return remarks.Any(r => r.Serious) ? 1 : 0;
        });
        return command;
    }

    /// <summary>`sleuth signs|places|risks|causes [words]`: the names that a case file may use, those that have all the words.</summary>
    public static IEnumerable<Command> Lists(TextWriter output)
    {
        var knowledge = new Lazy<KnowledgeBase>(() => KnowledgeBase.BuiltIn);
        return
        [
            List(
                "signs",
                "What may be seen, measured or told, and where.",
                () => knowledge.Value.Signs.Select(s => (s.Id, $"{s.Name}, on {string.Join(", ", s.On)}", string.Join(' ', s.Also)))
            ),
            List(
                "places",
                "Kinds of place with the letters of their addresses.",
                () =>
                    PartKinds.All.Select(k =>
                        (k.Id, $"{Sentences.English.Say(k.Name)}, {k.Letters}{(k.Scope == StationScope.Engine ? "" : "n")}{k.Suffix}", "")
                    )
            ),
            List("risks", "Questions about the past.", () => knowledge.Value.Risks.Select(r => (r.Id, r.Question, r.Name))),
            List("causes", "Root causes, and where they sit.", () => knowledge.Value.Causes.Select(c => (c.Id, $"{c.Name}, on {c.Seat}", c.Family))),
        ];

        Command List(string name, string does, Func<IEnumerable<(string Id, string Says, string Also)>> all)
        {
            var words = new Argument<string[]>("words") { Description = "Words that must all be in it.", Arity = ArgumentArity.ZeroOrMore };
            var command = new Command(name, does);
            command.Arguments.Add(words);
            command.SetAction(parsed =>
            {
                var wanted = parsed.GetValue(words) ?? [];
                var found = all()
                    .Where(x => wanted.All(w => $"{x.Id} {x.Says} {x.Also}".Contains(w, StringComparison.OrdinalIgnoreCase)))
                    .OrderBy(x => x.Id, StringComparer.Ordinal)
                    .ToArray();
                foreach (var (id, says, _) in found)
                {
                    output.WriteLine($"{id, -30} {says}");
                }

                return found.Length > 0 ? 0 : 1;
            });
            return command;
        }
    }

    /// <summary>The engine of a seed: what it is and what the owner tells; with looks, what they show; with a cause, the score.</summary>
    public static Command Practice(TextWriter output, TextWriter errors)
    {
        var seed = new Option<int>("--seed") { Description = "The same number gives everybody the same engine.", Required = true };
        var look = new Option<string[]>("--look")
        {
            Description = "sign@place to look at, any number of times.",
            AllowMultipleArgumentsPerToken = true,
        };
        var commit = new Option<string?>("--commit") { Description = "Commit to a cause: its id, and how sure, such as wrong-size-shell=0.8." };
        var asJson = new Option<bool>("--json") { Description = "Print JSON." };
        var command = new Command("practice", "An engine drawn from the causes, to practise on.") { seed, look, commit, asJson };
        command.SetAction(parsed =>
        {
            try
            {
                var knowledge = KnowledgeBase.BuiltIn;
                var number = parsed.GetValue(seed);
                var looked = (parsed.GetValue(look) ?? [])
                    .Select(l => l.Split('@') is [var s, var p] ? (Sign: s, Place: p) : throw Bad("look", l))
                    .ToArray();
                if (parsed.GetValue(commit) is { } text)
                {
                    var guess =
                        text.Split('=') is [var cause, var sure]
                        && double.TryParse(sure, System.Globalization.CultureInfo.InvariantCulture, out var p)
                            ? new Core.Trace.PracticeGuess(cause, p)
                            : throw Bad("commit", text);
                    var score = Core.Trace.Practice.Commit(number, looked, [guess], knowledge);
                    if (parsed.GetValue(asJson))
                    {
                        output.WriteLine(JsonSerializer.Serialize(score, Spoken.Json(Sentences.English)));
                        return 0;
                    }

                    output.WriteLine($"It was {string.Join(" and ", score.Causes.Select(c => $"{c.Name} ({c.Place})"))}.");
                    output.WriteLine(
                        $"{(score.Right ? "Right" : "Not right")}: {score.LogScore:0.0} bits in {score.Minutes:0} minutes; the computation {score.ComputedScore:0.0} bits on the same."
                    );
                    foreach (var link in score.Debrief)
                    {
                        output.WriteLine($"  {link.Says}");
                        foreach (var left in link.Left)
                        {
                            output.WriteLine(
                                $"    {(left.There ? "was there" : "was not there"), -14}{(left.Looked ? "looked at" : ""), -10} {left.Place, -4} {left.Name}"
                            );
                        }
                    }

                    return 0;
                }

                var engine = Core.Trace.Practice.Arrive(number, knowledge);
                var shown = looked.Select(l => Core.Trace.Practice.Look(number, l.Sign, l.Place, knowledge)).ToArray();
                if (parsed.GetValue(asJson))
                {
                    output.WriteLine(JsonSerializer.Serialize(new { Engine = engine, Looks = shown }, Spoken.Json(Sentences.English)));
                    return 0;
                }

                output.WriteLine($"Engine {engine.Seed}: {Sentences.English.Say(engine.Kind)}.");
                foreach (var told in engine.Told.Concat(shown))
                {
                    output.WriteLine(
                        $"  {told.Place, -4} {told.Name}: {Sentences.English.Say(told.Words)}{(shown.Contains(told) ? $" ({told.Minutes:0} min)" : " (told)")}"
                    );
                }

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

    private static ProblemException Bad(string field, string text) =>
        new(Problem.Of(field, field == "look" ? "command.look-cannot-be-read" : "command.guess-cannot-be-read", ("text", text)));
}

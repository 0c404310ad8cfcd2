using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Trace;

/// <summary>
/// Failures written down from damage guides and text books, each with its source in the file. The first file is one to work with; the second is
/// kept apart, was written before it was run, and its score is only reported.
/// </summary>
public sealed class WrittenTests(ITestOutputHelper output)
{
    [Theory]
    [InlineData("first.yaml")]
    [InlineData("second.yaml")]
    public void Written_cases_name_what_is_known_and_their_source(string file)
    {
        var written = WrittenCases.Read(file);
        written.Count.ShouldBeGreaterThanOrEqualTo(25);
        written.SelectMany(WrittenCases.Faults).ShouldBeEmpty();
        written.ShouldAllOfSomeBe(c => c.Source.Length > 0 && c.Causes.Count > 0);
        written.Select(c => c.Id).ShouldBeUnique();
    }

    [Theory]
    [InlineData("first.yaml", 0.8, 0.95)]
    public void Written_failures_are_told_right_and_never_surely_wrong(string file, double top, double three)
    {
        var written = WrittenCases.Read(file);
        var cases = written.Select(c => (Case: c, Answer: WrittenCases.Answer(c))).ToArray();
        var ranks = cases
            .Select(c => (c.Case, c.Answer, Rank: WrittenCases.Rank(c.Case, c.Answer), Wrong: WrittenCases.SureOfWrong(c.Case, c.Answer)))
            .ToArray();
        foreach (var r in ranks)
        {
            var first = string.Join(", ", r.Answer.Ranking.Take(4).Select(x => $"{x.Cause} {x.Place} {x.Probability:0.00}"));
            output.WriteLine(
                $"{(r.Wrong ? "SURE OF WRONG" : r.Rank == 1 ? "" : $"#{r.Rank}")}\t{r.Case.Id}: {first}; none {r.Answer.NoneOfThese:0.00}, unknown {r.Answer.Unknown:0.00}"
            );
        }

        output.WriteLine($"{ranks.Count(r => r.Rank == 1)} on top, {ranks.Count(r => r.Rank is >= 1 and <= 3)} among three, of {ranks.Length}");
        ranks.Count(r => r.Rank == 1).ShouldBeGreaterThanOrEqualTo((int)Math.Ceiling(top * ranks.Length));
        ranks.Count(r => r.Rank is >= 1 and <= 3).ShouldBeGreaterThanOrEqualTo((int)Math.Floor(three * ranks.Length));
        ranks.Where(r => r.Wrong).Select(r => r.Case.Id).ShouldBeEmpty();
    }
}

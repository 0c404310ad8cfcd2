using CsCheck;
using VividSleuth.Core.Build;

namespace VividSleuth.Core.Tests.Build;

public sealed class NetworkTests
{
    /// <summary>
    /// The plant of the Reliable Construction Company, the worked example of the chapter on PERT/CPM in F. S. Hillier and G. J. Lieberman, “Introduction to
    /// Operations Research”: three estimates of each of its activities, in weeks. Values from memory; they give the book's means and variances.
    /// </summary>
    private static readonly Activity[] Plant =
    [
        new("A", new Spell(1, 2, 3), []),
        new("B", new Spell(2, 3.5, 8), ["A"]),
        new("C", new Spell(6, 9, 18), ["B"]),
        new("D", new Spell(4, 5.5, 10), ["C"]),
        new("E", new Spell(1, 4.5, 5), ["C"]),
        new("F", new Spell(4, 4, 10), ["E"]),
        new("G", new Spell(5, 6.5, 11), ["D"]),
        new("H", new Spell(5, 8, 17), ["E", "G"]),
        new("I", new Spell(3, 7.5, 9), ["C"]),
        new("J", new Spell(3, 9, 9), ["F", "I"]),
        new("K", new Spell(4, 4, 4), ["J"]),
        new("L", new Spell(1, 5.5, 7), ["J"]),
        new("M", new Spell(1, 2, 3), ["H"]),
        new("N", new Spell(5, 5.5, 9), ["K", "L"]),
    ];

    [Fact]
    public void The_plant_takes_44_weeks_along_its_critical_path()
    {
        var times = new Network(Plant).Times();
        times.Max(t => t.EarlyFinish).ShouldBe(44, 1e-9);
        times.Where(t => t.IsCritical).Select(t => t.Id).Order(StringComparer.Ordinal).ShouldBe(["A", "B", "C", "E", "F", "J", "L", "N"]);
        // The book's table of slacks.
        times
            .Where(t => !t.IsCritical)
            .OrderBy(t => t.Id, StringComparer.Ordinal)
            .Select(t => (t.Id, Math.Round(t.Slack, 9)))
            .ShouldBe([("D", 4), ("G", 4), ("H", 4), ("I", 2), ("K", 1), ("M", 4)]);
        var j = times.Single(t => t.Id == "J");
        (j.EarlyStart, j.LateFinish).ShouldBe((25, 33));
    }

    /// <summary>The same book: mean 44 and variance 9 of the critical path, so 84 % that the deadline of 47 weeks is met.</summary>
    [Fact]
    public void The_deadline_of_the_plant_is_met_at_five_chances_in_six()
    {
        var network = new Network(Plant);
        var (mean, deviation) = network.Pert();
        mean.ShouldBe(44, 1e-9);
        (deviation * deviation).ShouldBe(9, 1e-9);
        network.ChanceBy(47).ShouldBe(0.84, 0.005);
    }

    [Fact]
    public void What_cannot_be_is_named()
    {
        string Told(params Activity[] activities) => Should.Throw<ProblemException>(() => new Network(activities)).Problems[0].Text.Say();
        var hour = Spell.Always(1);
        Told(new("wash", hour, ["dry"]), new("dry", hour, ["paint"]), new("paint", hour, ["wash"]), new("tag", hour, []))
            .ShouldBe("They wait for each other in a circle: wash → dry → paint → wash.");
        Told(new Activity("wash", hour, ["kit"])).ShouldBe("“wash” waits for “kit”, which is not there.");
        Told(new("wash", hour, []), new("wash", hour, [])).ShouldBe("“wash” is there twice.");
        Should.Throw<ProblemException>(() => new Spell(3, 2, 4));
        Should.Throw<ProblemException>(() => new Spell(-1, 2, 4));
        Should.Throw<ProblemException>(() => new Spell(1, 2, double.NaN));
        new Network([]).Times().ShouldBeEmpty();
    }

    /// <summary>Malcolm and others 1959: a mean of (a + 4m + b)/6. The spread of a drawn beta is nearly (b − a)/6 where the mode lies within.</summary>
    [Fact]
    public void Draws_have_the_mean_of_PERT_and_stay_between_the_ends()
    {
        var random = new Random(7);
        foreach (var spell in new[] { new Spell(1, 2, 3), new Spell(2, 3.5, 8), new Spell(4, 4, 10), new Spell(3, 9, 9), Spell.Always(5) })
        {
            var draws = Enumerable.Range(0, 20_000).Select(_ => spell.Draw(random)).ToArray();
            draws.ShouldAllBe(d => d >= spell.Least && d <= spell.Most);
            draws.Average().ShouldBe(spell.Mean, 0.03 * Math.Max(0.1, spell.Most - spell.Least));
        }
    }

    [Fact]
    public void None_begins_before_what_it_waits_for_and_the_slack_is_what_it_says()
    {
        var networks =
            from n in Gen.Int[1, 14]
            from takes in Gen.Int[0, 9].Array[n]
            from waits in Gen.Bool.Array[n * n]
            select Enumerable
                .Range(0, n)
                .Select(i => new Activity(
                    $"t{i}",
                    Spell.Always(takes[i]),
                    [.. Enumerable.Range(0, i).Where(b => waits[(i * n) + b] && (i + b) % 3 != 0).Select(b => $"t{b}")]
                ))
                .ToArray();
        networks.Sample(
            activities =>
            {
                var network = new Network(activities);
                var times = network.Times().ToDictionary(t => t.Id);
                var end = times.Values.Max(t => t.EarlyFinish);
                times.Values.ShouldContain(t => t.IsCritical);
                foreach (var a in activities)
                {
                    var t = times[a.Id];
                    a.After.ShouldAllBe(b => times[b].EarlyFinish <= t.EarlyStart && times[b].LateFinish <= t.LateStart);
                    t.FreeSlack.ShouldBeInRange(0, t.Slack);
                    // As much longer as its slack ends no later; an hour more does by an hour.
                    double EndWith(double more) =>
                        new Network([.. activities.Select(x => x == a ? x with { Takes = Spell.Always(x.Takes.Likely + more) } : x)])
                            .Times()
                            .Max(x => x.EarlyFinish);
                    EndWith(t.Slack).ShouldBe(end);
                    EndWith(t.Slack + 1).ShouldBe(end + 1);
                }
            },
            iter: 200
        );
    }
}

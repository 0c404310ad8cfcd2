using System.Net.Http.Json;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class PracticeTests(Shop shop)
{
    [Fact]
    public async Task Practice_is_the_same_for_everybody_on_every_instance_and_keeps_nothing()
    {
        var one = await shop.As(Roles.Viewer);
        var other = await shop.As(Roles.Mechanic, shop.Other);
        var engine = await one.GetAsync("/api/practice/42").Json();
        (await other.GetAsync("/api/practice/42").Json()).ToJsonString().ShouldBe(engine.ToJsonString());
        engine["causes"]!.AsArray().Count.ShouldBeGreaterThan(20);
        engine["section"]!["cells"]!.AsArray().ShouldNotBeEmpty();
        // The truth is nowhere in what arrives.
        engine.AsObject().Select(p => p.Key).ShouldBe(["engine", "section", "causes"]);

        var look = await one.GetAsync("/api/practice/42/look?sign=crown-burnt&place=P1").Json();
        look["place"]!.ToString().ShouldBe("P1");
        var body = new
        {
            looked = new[] { new { sign = "crown-burnt", place = "P1" } },
            guesses = new[] { new { cause = "detonation", probability = 0.6 } },
        };
        var score = await one.PostAsJsonAsync("/api/practice/42/commit", body).Json();
        score["causes"]!.AsArray().ShouldNotBeEmpty();
        score["debrief"]!.AsArray().ShouldNotBeEmpty();
        score["minutes"]!.GetValue<double>().ShouldBeGreaterThan(0);
        (await other.PostAsJsonAsync("/api/practice/42/commit", body).Json())["logScore"]!
            .GetValue<double>()
            .ShouldBe(score["logScore"]!.GetValue<double>());
    }

    [Fact]
    public async Task What_makes_no_sense_is_refused_with_its_field()
    {
        var client = await shop.As(Roles.Viewer);
        (await client.GetAsync("/api/practice/0").Problem()).FirstField().ShouldBe("seed");
        (await client.GetAsync("/api/practice/1/look?sign=crown-burnt&place=K1").Problem()).FirstField().ShouldBe("sign");
        (await client.GetAsync("/api/practice/1/look?sign=crown-burnt&place=Q9").Problem()).FirstField().ShouldBe("place");
        var sure = new { looked = Array.Empty<object>(), guesses = new[] { new { cause = "detonation", probability = 1.5 } } };
        (await client.PostAsJsonAsync("/api/practice/1/commit", sure).Problem()).FirstField().ShouldBe("guesses");
    }
}

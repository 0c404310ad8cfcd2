using System.Net;
using System.Net.Http.Json;
using VividSleuth.Core;
using VividSleuth.Store.Arrival;
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
    public async Task A_drawn_engine_is_heard_and_the_truth_is_told_only_to_who_commits()
    {
        var client = await shop.As(Roles.Viewer);
        var view = await client.GetAsync("/api/practice/sounds/7").Json();
        view["firingOrder"]!.AsArray().Select(c => (int)c!).ShouldBe([1, 5, 3, 6, 2, 4]);
        view["firings"]!.AsArray().ShouldAllOfSomeBe(f => !f!["missing"]!.GetValue<bool>());
        view.AsObject().Select(p => p.Key).ShouldNotContain("fault");
        var wave = await client.GetByteArrayAsync("/api/practice/sounds/7/wave");
        SoundWave.Read(wave).Pickup.ShouldBeNull();
        var right = await client.PostAsJsonAsync("/api/practice/sounds/7/guess", new { fault = "misfire", cylinder = 4 }).Json();
        (right["right"]!.GetValue<bool>(), right["cylinderRight"]!.GetValue<bool>()).ShouldBe((true, true));
        var wrong = await client.PostAsJsonAsync("/api/practice/sounds/7/guess", new { fault = "oncePerCycle", cylinder = 4 }).Json();
        wrong["right"]!.GetValue<bool>().ShouldBeFalse();
        wrong["fault"]!.ToString().ShouldBe("misfire");
        (await client.GetAsync("/api/practice/sounds/0")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_drawn_picture_is_measured_and_held_against_the_truth()
    {
        var client = await shop.As(Roles.Viewer);
        var view = await client.GetAsync("/api/practice/pictures/5").Json();
        (view["task"]!.ToString(), view["kind"]!.ToString()).ShouldBe(("across", "ringGap"));
        (await client.GetByteArrayAsync("/api/practice/pictures/5/view"))[..2].ShouldBe([0xFF, 0xD8]);
        var ask = new
        {
            task = "across",
            points = new[] { 0.48, 0.745, 0.53, 0.745, 0.48, 0.762 },
            scale = Array.Empty<double>(),
            scaleLength = (decimal?)null,
            above = 0,
        };
        var answer = await client.PostAsJsonAsync("/api/practice/pictures/5/measure", ask).Json();
        var score = await client.PostAsJsonAsync("/api/practice/pictures/5/guess", ask).Json();
        score["value"]!.GetValue<double>().ShouldBe(answer["value"]!.GetValue<double>(), 1e-9);
        score["within"]!.GetValue<bool>().ShouldBeTrue();
        Math.Abs(score["off"]!.GetValue<double>()).ShouldBeLessThan(0.15);
        var nowhere = new
        {
            task = "across",
            points = new[] { 0.1, 0.9, 0.15, 0.9 },
            above = 0,
        };
        (await client.PostAsJsonAsync("/api/practice/pictures/5/guess", nowhere)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
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

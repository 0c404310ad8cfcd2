using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using VividSleuth.Store.Shop;
using static VividSleuth.Server.Tests.StripTests;

namespace VividSleuth.Server.Tests;

/// <summary>Who may pass what, as the shop has it.</summary>
public sealed class GateTests(OwnShop own) : IClassFixture<OwnShop>
{
    [Fact]
    public async Task The_shop_says_who_passes_what_and_whether_another_signs()
    {
        using var mechanic = await own.As(Roles.Mechanic);
        using var lead = await own.As(Roles.Lead);
        var at = await Shop.CaseAsync(mechanic);
        async Task WaysAsync(bool otherEyes, params (string Lock, string Role)[] opens) =>
            await lead.PutAsJsonAsync(
                    "/api/settings",
                    new
                    {
                        version = (await lead.GetAsync("/api/settings").Json())["version"]!.GetValue<int>(),
                        holdSigner = Roles.Lead,
                        keeping = "bag",
                        keepingBySet = new Dictionary<string, string>(),
                        otherEyes,
                        openedBy = opens.ToDictionary(o => o.Lock, o => o.Role),
                    }
                )
                .Json();

        await WaysAsync(otherEyes: true, ("order", Roles.Lead));
        await UptoHeadAsync(lead, at);
        (await mechanic.PostAsJsonAsync($"{at}/steps", Step("head", "fastenersOut head", "empty")).Problem()).FirstField().ShouldBe("fastenersOut");
        (await mechanic.PostAsJsonAsync($"{at}/steps", Recorded("head", "wasOff", "it came in a box", [])).Problem()).FirstField().ShouldBe("state");
        await WaysAsync(otherEyes: true, ("order", Roles.Mechanic));
        await mechanic.PostAsJsonAsync($"{at}/steps", Recorded("head", "wasOff", "it came in a box", [])).Json();
        await lead.PostAsJsonAsync($"{at}/sign-offs", Sign("head")).Json();
        await lead.PostAsJsonAsync($"{at}/fasteners", Out("head", "head", 1)).Json();
        (await mechanic.PostAsJsonAsync($"{at}/steps", Step("invert")).Problem())["title"]!.ToString().ShouldContain("changed since it was signed");
        StepOf(await lead.GetAsync($"{at}/answers").Json(), "head")["stale"]!.GetValue<bool>().ShouldBeTrue();
        await lead.PostAsJsonAsync($"{at}/sign-offs", Sign("head")).Json();
        await mechanic.PostAsJsonAsync($"{at}/steps", Step("invert")).Json();
        (
            await lead.PutAsJsonAsync(
                    "/api/settings",
                    new
                    {
                        version = 3,
                        holdSigner = Roles.Lead,
                        keeping = "bag",
                        keepingBySet = new Dictionary<string, string>(),
                        openedBy = new Dictionary<string, string> { ["hole"] = Roles.Viewer },
                    }
                )
                .Problem()
        ).FirstField().ShouldBe("openedBy");
    }
}

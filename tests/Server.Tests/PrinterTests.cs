using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;
using VividSleuth.Cli.StandIns;
using VividSleuth.Core;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

public sealed class PrinterTests(OwnShop own) : IClassFixture<OwnShop>
{
    private async Task<(HttpClient Client, string Case)> NewCaseAsync()
    {
        var client = await own.As(Roles.Mechanic);
        return (client, await Shop.CaseAsync(client));
    }

    [Fact]
    public async Task Without_a_printer_nothing_is_printed_and_nothing_is_marked_so()
    {
        var (client, at) = await NewCaseAsync();
        using var lead = await own.As(Roles.Lead);
        var settings = await lead.GetAsync("/api/settings").Json();
        settings["printerAddress"] = "";
        await lead.PutAsJsonAsync("/api/settings", settings).Json();
        var order = new { id = Guid.CreateVersion7(), places = "R4" };
        var problem = await client.PostAsJsonAsync($"{at}/label-jobs", order).Problem();
        problem.FirstField().ShouldBe("printerAddress");
        problem["detail"]!.ToString().ShouldContain("PDF");
        var view = await client.GetAsync("/api/printer").Json();
        view["jobs"]!.AsArray().ShouldNotContain(j => j!["id"]!.ToString() == order.id.ToString());
        view["address"]!.ToString().ShouldBeEmpty();
    }

    /// <summary>A printer in the network, played by the stand-in that ships: its roll runs out in a job, and is renewed.</summary>
    [Fact]
    public async Task The_printer_runs_out_of_paper_and_goes_on_with_a_new_roll()
    {
        var (client, at) = await NewCaseAsync();
        using var lead = await own.As(Roles.Lead);
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var time = new HandTime();
        var printer = new SimulatedPrinter(60, TimeSpan.FromSeconds(30), time);
        using var stop = new CancellationTokenSource();
        var serving = Task.Run(async () =>
        {
            while (true)
            {
                using var line = await listener.AcceptTcpClientAsync(stop.Token);
                await printer.ServeAsync(line.GetStream(), TextWriter.Null, stop.Token);
            }
        });
        var settings = await lead.GetAsync("/api/settings").Json();
        settings["printerAddress"] = $"127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}";
        await lead.PutAsJsonAsync("/api/settings", settings).Json();

        JsonNode Job(JsonNode view, Guid id) => view["jobs"]!.AsArray().Single(j => j!["id"]!.ToString() == id.ToString())!;
        var (first, second) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        object Order(Guid id) => new { id, places = "piston rod rod-cap rod-shell-upper rod-shell-lower bore crankpin" };
        (await client.PostAsJsonAsync($"{at}/label-jobs", Order(first)).Json())["state"]!.ToString().ShouldBe("printed");
        (await client.PostAsJsonAsync($"{at}/label-jobs", Order(second)).Json())["state"]!.ToString().ShouldBe("paperOut");
        await client.PostAsJsonAsync($"{at}/label-jobs", Order(second)).Json();
        var view = await client.GetAsync("/api/printer").Json();
        view["trouble"]!.ToString().ShouldContain("roll is empty");
        Job(view, second)["printed"]!.GetValue<int>().ShouldBe(18);
        // Nobody has put one in yet: nothing more is said to be out.
        view = await client.PostAsync("/api/printer/again", null).Json();
        Job(view, second)["printed"]!.GetValue<int>().ShouldBe(18);
        time.Go(TimeSpan.FromMinutes(1));
        view = await client.PostAsync("/api/printer/again", null).Json();
        Job(view, second)["state"]!.ToString().ShouldBe("printed");
        view["left"]!.GetValue<int>().ShouldBe(60 - 24);
        view["trouble"]!.ToString().ShouldBeEmpty();
        (await client.PostAsync($"/api/label-jobs/{first}/cancel", null).Json())["state"]!.ToString().ShouldBe("printed");

        // A printer that is gone: the job waits, and says why.
        await stop.CancelAsync();
        listener.Stop();
        var third = Guid.CreateVersion7();
        (await client.PostAsJsonAsync($"{at}/label-jobs", Order(third)).Json())["state"]!.ToString().ShouldBe("waiting");
        (await client.GetAsync("/api/printer").Json())["trouble"]!.ToString().ShouldContain("does not answer");
        await Should.ThrowAsync<OperationCanceledException>(serving);
    }

    /// <summary>A clock that a test moves by hand.</summary>
}

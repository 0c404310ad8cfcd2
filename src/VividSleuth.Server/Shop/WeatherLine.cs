using System.Net;
using System.Text;
using VividSleuth.Core;

namespace VividSleuth.Server.Shop;

/// <summary>The line to a weather service in the network (docs/weather-format.md). What it answers is read like any table that a stranger sends.</summary>
public sealed class WeatherLine(HttpClient http, Devices devices)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    /// <returns>The table as it came.</returns>
    /// <exception cref="ProblemException">There is no address, it may not be connected to, does not answer, or says too much.</exception>
    public async Task<string> AskAsync(string address, int most, CancellationToken cancel)
    {
        if (address.Length == 0)
        {
            throw new ProblemException(Problem.Of("weatherAddress", "server.no-weather-service"));
        }

        var (host, port) = devices.Parts(address, "weatherAddress", "server.a-weather-service");
        using var patient = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patient.CancelAfter(Patience);
        try
        {
            using var response = await http.GetAsync(
                new UriBuilder(Uri.UriSchemeHttp, host, port, "weather.csv").Uri,
                HttpCompletionOption.ResponseHeadersRead,
                patient.Token
            );
            if (response.StatusCode != HttpStatusCode.OK)
            {
                throw new ProblemException(Problem.Of("weatherAddress", "server.weather-refused", ("status", (int)response.StatusCode)));
            }

            await using var stream = await response.Content.ReadAsStreamAsync(patient.Token);
            using var reader = new StreamReader(stream, Encoding.UTF8);
            var buffer = new char[most + 1];
            var read = await reader.ReadBlockAsync(buffer, patient.Token);
            return read > most ? throw new ProblemException(Problem.Of("weatherAddress", "server.weather-too-long")) : new string(buffer, 0, read);
        }
        catch (Exception e) when (e is HttpRequestException or IOException || (e is OperationCanceledException && !cancel.IsCancellationRequested))
        {
            throw new ProblemException(Problem.Of("weatherAddress", "server.weather-does-not-answer", ("address", address)));
        }
    }
}

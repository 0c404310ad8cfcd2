using System.Net;
using System.Text.Json;
using VividSleuth.Core;
using VividSleuth.Core.Verdict;
using VividSleuth.Server.Shop;

namespace VividSleuth.Server.Verdict;

/// <summary>What a supplier is asked for.</summary>
public sealed record SupplierAsk(Guid Id, string Item, string Course, string Step, string What, string PartNumber, decimal Quantity);

public sealed record SupplierAsks(string Engine, IReadOnlyList<SupplierAsk> Lines);

/// <param name="Price">Of one pack.</param>
public sealed record SupplierBid(Guid Line, string PartNumber, decimal Price, string Currency, int Pack, decimal Days, bool InStock, string Remarks);

public sealed record SupplierBids(IReadOnlyList<SupplierBid> Offers);

/// <param name="Id">Of the order: sent again it is the same order.</param>
public sealed record SupplierOrder(Guid Id, string Engine, IReadOnlyList<SupplierAsk> Lines);

/// <param name="State">confirmed, backOrder, sent or delivered.</param>
public sealed record SupplierLineState(Guid Id, string State, DateOnly Day, string Label, decimal Count);

public sealed record SupplierAnswer(string Reference, IReadOnlyList<SupplierLineState> Lines);

/// <summary>
/// The line to a supplier or machine shop in the network (docs/supplier-protocol.md). What it answers is checked like anything that a stranger sends.
/// </summary>
public sealed class SupplierLine(HttpClient http, Devices devices)
{
    private const int MostBytes = 4 * 1024 * 1024;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        RespectRequiredConstructorParameters = true,
        RespectNullableAnnotations = true,
    };

    /// <exception cref="ProblemException">It does not answer, may not be connected to, or says what no supplier says.</exception>
    public Task<SupplierBids> AskAsync(Supplier supplier, SupplierAsks asks, CancellationToken cancel) =>
        SendAsync<SupplierBids>(supplier, HttpMethod.Post, "offers", asks, cancel);

    /// <inheritdoc cref="AskAsync"/>
    public Task<SupplierAnswer> OrderAsync(Supplier supplier, SupplierOrder order, CancellationToken cancel) =>
        SendAsync<SupplierAnswer>(supplier, HttpMethod.Post, "orders", order, cancel);

    /// <inheritdoc cref="AskAsync"/>
    public Task<SupplierAnswer> FollowAsync(Supplier supplier, string reference, CancellationToken cancel) =>
        SendAsync<SupplierAnswer>(supplier, HttpMethod.Get, $"orders/{Uri.EscapeDataString(reference)}", null, cancel);

    private async Task<T> SendAsync<T>(Supplier supplier, HttpMethod method, string path, object? body, CancellationToken cancel)
    {
        var (host, port) = devices.Parts(supplier.Address, "address", "server.a-supplier");
        using var request = new HttpRequestMessage(method, new UriBuilder(Uri.UriSchemeHttp, host, port, path).Uri);
        request.Content = body is null ? null : JsonContent.Create(body, body.GetType(), options: Json);
        using var patient = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        patient.CancelAfter(Patience);
        try
        {
            using var response = await http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, patient.Token);
            if (response.StatusCode != HttpStatusCode.OK)
            {
                throw Said(supplier, "server.supplier-refused", ("status", (int)response.StatusCode));
            }

            var bytes = await ReadAsync(response, patient.Token) ?? throw Said(supplier, "server.supplier-says-nonsense");
            var answer = JsonSerializer.Deserialize<T>(bytes, Json) ?? throw Said(supplier, "server.supplier-says-nonsense");
            return InputRules.Check(answer).ToArray() is { Length: > 0 } ? throw Said(supplier, "server.supplier-says-nonsense") : answer;
        }
        catch (Exception e) when (e is HttpRequestException or IOException || (e is OperationCanceledException && !cancel.IsCancellationRequested))
        {
            throw Said(supplier, "server.supplier-does-not-answer");
        }
        catch (Exception e) when (e is JsonException or NotSupportedException)
        {
            throw Said(supplier, "server.supplier-says-nonsense");
        }
    }

    private static async Task<byte[]?> ReadAsync(HttpResponseMessage response, CancellationToken cancel)
    {
        using var content = new MemoryStream();
        await using var stream = await response.Content.ReadAsStreamAsync(cancel);
        var buffer = new byte[64 * 1024];
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0; )
        {
            if (content.Length + read > MostBytes)
            {
                return null;
            }

            content.Write(buffer, 0, read);
        }

        return content.ToArray();
    }

    private static ProblemException Said(Supplier supplier, string code, params IReadOnlyList<(string, object?)> with) =>
        new(Problem.Of("supplier", code, [("name", supplier.Name), .. with]));
}

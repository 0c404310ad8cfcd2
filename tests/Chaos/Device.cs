using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace VividSleuth.Chaos;

/// <summary>One person's device: it enters one thing after the other over whichever line carries, and sends each again until it is answered.</summary>
internal sealed class Device : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(8);

    private readonly World _world;
    private readonly Ledger _ledger;
    private readonly Random _chance;
    private readonly string _person;
    private readonly Guid[] _cases;
    private readonly byte[] _picture;
    private readonly HttpClient[] _lines;
    private readonly Dictionary<Guid, int> _numbering = [];
    private readonly List<Entered> _mine = [];
    private string _cookie = "";

    /// <param name="cases">The first is one whose numbering changes.</param>
    public Device(World world, Ledger ledger, string person, Guid[] cases, byte[] picture, int seed)
    {
        (_world, _ledger, _person, _cases, _picture, _chance) = (world, ledger, person, cases, picture, new Random(seed));
        _lines =
        [
            .. world
                .Lines.Take(World.Instances)
                .Select(l => new HttpClient(new SocketsHttpHandler { UseCookies = false, PooledConnectionLifetime = TimeSpan.FromSeconds(5) })
                {
                    BaseAddress = new Uri($"http://127.0.0.1:{l.Port}"),
                    Timeout = Patience,
                }),
        ];
    }

    public void Dispose()
    {
        foreach (var line in _lines)
        {
            line.Dispose();
        }
    }

    /// <summary>Enters until it is told to stop; what was entered by then is still brought to its end.</summary>
    public async Task RunAsync(CancellationToken stop, CancellationToken end)
    {
        await SignInAsync(end);
        while (!stop.IsCancellationRequested)
        {
            var caseId = _cases[_chance.Next(_cases.Length)];
            if (!_numbering.ContainsKey(caseId) || _chance.Next(4) == 0)
            {
                await LookAsync(caseId, end);
            }

            await (
                _chance.Next(10) switch
                {
                    < 3 => FindingAsync(caseId, end),
                    3 => ManyAsync(caseId, end),
                    4 => DebrisAsync(caseId, end),
                    5 => PhotoAsync(caseId, end),
                    6 => PhotoInPiecesAsync(caseId, end),
                    7 => LessonAsync(end),
                    _ => TakeBackAsync(end),
                }
            );
        }
    }

    private string Cylinder => $"P{_chance.Next(1, 7)}";

    private Entered Enter(string list, Guid caseId, string place, string sha256 = "") =>
        Kept(
            new Entered
            {
                Id = Guid.CreateVersion7(),
                List = list,
                By = _person,
                Case = caseId,
                Place = place,
                Numbering = list == "lessons" ? 0 : _numbering[caseId],
                Sha256 = sha256,
            }
        );

    private Entered Kept(Entered entered)
    {
        _ledger.All.Enqueue(entered);
        return entered;
    }

    private static JsonObject Finding(Entered e) =>
        new()
        {
            ["id"] = e.Id,
            ["place"] = e.Place,
            ["sign"] = "skirt-scuff-thrust",
            ["seen"] = "present",
            ["level"] = 1,
            ["spot"] = "",
            ["note"] = "",
        };

    private async Task FindingAsync(Guid caseId, CancellationToken end)
    {
        var e = Enter("findings", caseId, Cylinder);
        await SendAsync([e], () => Post($"/api/cases/{caseId}/findings", Finding(e), e.Numbering), end);
        if (e.Fate == Fate.Written)
        {
            _mine.Add(e);
        }
    }

    private async Task ManyAsync(Guid caseId, CancellationToken end)
    {
        var many = Enumerable.Range(0, 3).Select(_ => Enter("findings", caseId, Cylinder)).ToArray();
        await SendAsync(many, () => Post($"/api/cases/{caseId}/findings/many", new JsonArray([.. many.Select(Finding)]), many[0].Numbering), end);
    }

    private async Task DebrisAsync(Guid caseId, CancellationToken end)
    {
        var e = Enter("debris", caseId, Cylinder);
        var body = new JsonObject
        {
            ["id"] = e.Id,
            ["place"] = e.Place,
            ["material"] = "otherMetal",
            ["hard"] = false,
            ["colour"] = "copperOrBronze",
            ["form"] = "flake",
            ["count"] = 4,
            ["size"] = 1.5,
            ["note"] = "",
        };
        await SendAsync([e], () => Post($"/api/cases/{caseId}/debris", body, e.Numbering), end);
    }

    private Task<bool> LessonAsync(CancellationToken end)
    {
        var e = Enter("lessons", Guid.Empty, "");
        var body = new JsonObject
        {
            ["id"] = e.Id,
            ["script"] = "pushrod-v8",
            ["step"] = "head",
            ["engineName"] = "",
            ["text"] = $"Said by {_person}.",
            ["caseId"] = null,
        };
        return SendAsync([e], () => Post("/api/lessons", body, null), end);
    }

    /// <summary>A picture file that no other is like: a comment of its own stands behind its first mark.</summary>
    private byte[] Picture()
    {
        var comment = Guid.NewGuid().ToByteArray();
        return [0xFF, 0xD8, 0xFF, 0xFE, 0, 18, .. comment, .. _picture.AsSpan(2)];
    }

    private static MultipartFormDataContent Fields(Entered e, string name, int bytes, byte[]? file)
    {
        var form = new MultipartFormDataContent
        {
            { new StringContent(e.Id.ToString()), "id" },
            { new StringContent(e.Place), "place" },
            { new StringContent(name), "name" },
            { new StringContent($"{bytes}"), "bytes" },
        };
        if (file is not null)
        {
            form.Add(new ByteArrayContent(file), "file", name);
        }

        return form;
    }

    private Task<bool> PhotoAsync(Guid caseId, CancellationToken end)
    {
        var file = Picture();
        var e = Enter("photos", caseId, Cylinder, Convert.ToHexStringLower(SHA256.HashData(file)));
        return SendAsync([e], () => Post($"/api/cases/{caseId}/photos", Fields(e, "bench.jpg", file.Length, file), e.Numbering), end);
    }

    private async Task PhotoInPiecesAsync(Guid caseId, CancellationToken end)
    {
        var file = Picture();
        var e = Enter("photos", caseId, Cylinder, Convert.ToHexStringLower(SHA256.HashData(file)));
        while (
            await PiecesAsync(e, file, end)
            && !await SendAsync([e], () => Post($"/api/cases/{caseId}/photos", Fields(e, "pieces.jpg", file.Length, null), e.Numbering), end)
        )
        {
            // Pieces that were there are there no more: sent again from the beginning.
        }
    }

    /// <returns>Whether all of it is there.</returns>
    private async Task<bool> PiecesAsync(Entered e, byte[] file, CancellationToken end)
    {
        var at = 0;
        while (at < file.Length)
        {
            var piece = file.AsSpan(at, Math.Min(_chance.Next(4_000, 40_000), file.Length - at)).ToArray();
            var from = at;
            var told = await UntilAnsweredAsync(
                () =>
                    new HttpRequestMessage(HttpMethod.Put, $"/api/cases/{e.Case}/photos/{e.Id}/pieces?offset={from}")
                    {
                        Content = new ByteArrayContent(piece) { Headers = { ContentType = new MediaTypeHeaderValue("application/octet-stream") } },
                    },
                e,
                end
            );
            if (told is null)
            {
                return false;
            }

            at = told.Value.Body["received"]!.GetValue<int>();
        }

        return true;
    }

    private async Task TakeBackAsync(CancellationToken end)
    {
        if (_mine.Count == 0)
        {
            return;
        }

        var e = _mine[_chance.Next(_mine.Count)];
        _mine.Remove(e);
        for (var version = 1; ; )
        {
            var known = version;
            var told = await UntilAnsweredAsync(
                () => Post($"/api/cases/{e.Case}/findings/{e.Id}/withdraw", new JsonObject { ["why"] = "seen wrong", ["version"] = known }, null),
                e,
                end
            );
            if (told is not { Status: HttpStatusCode.Conflict } conflict)
            {
                e.TakenBackBy = told is { Status: HttpStatusCode.OK } ? _person : null;
                return;
            }

            // Moved by a change of numbering meanwhile; looked at again, and taken back as it stands now.
            version = conflict.Body["theirs"]!["version"]!.GetValue<int>();
        }
    }

    private async Task LookAsync(Guid caseId, CancellationToken end)
    {
        var told = await UntilAnsweredAsync(() => new HttpRequestMessage(HttpMethod.Get, $"/api/cases/{caseId}"), null, end);
        _numbering[caseId] = told is { Status: HttpStatusCode.OK } there
            ? there.Body["renumberings"]!.AsArray().Count
            : _numbering.GetValueOrDefault(caseId);
    }

    /// <summary>Number one to the other end and back, as a lead does who got it wrong.</summary>
    public async Task TurnAsync(CancellationToken end)
    {
        if (_cookie.Length == 0)
        {
            await SignInAsync(end);
        }

        var there = await UntilAnsweredAsync(() => new HttpRequestMessage(HttpMethod.Get, $"/api/cases/{_cases[0]}"), null, end);
        if (there is not { Status: HttpStatusCode.OK } stands)
        {
            return;
        }

        var body = new JsonObject
        {
            ["id"] = Guid.CreateVersion7(),
            ["version"] = stands.Body["version"]!.GetValue<int>(),
            ["numberOneEnd"] = stands.Body["layout"]!["numberOneEnd"]!.ToString() == "freeEnd" ? "driveEnd" : "freeEnd",
            ["numbering"] = "alongTheCrank",
            ["bankAOnTheLeft"] = true,
            ["why"] = "The other end.",
        };
        await UntilAnsweredAsync(() => Post($"/api/cases/{_cases[0]}/renumber", body, null), null, end);
    }

    private static HttpRequestMessage Post(string address, JsonNode body, int? numbering) => Post(address, JsonContent.Create(body), numbering);

    private static HttpRequestMessage Post(string address, HttpContent body, int? numbering)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, address) { Content = body };
        if (numbering is { } known)
        {
            request.Headers.Add("X-Numbering", $"{known}");
        }

        return request;
    }

    /// <summary>Sends what was entered until it is answered, and notes the answer.</summary>
    /// <returns>False where it must be sent from the beginning.</returns>
    private async Task<bool> SendAsync(Entered[] entered, Func<HttpRequestMessage> request, CancellationToken end)
    {
        var told = await UntilAnsweredAsync(request, entered[0], end);
        if (told is { Status: HttpStatusCode.Conflict })
        {
            return false;
        }

        foreach (var e in entered)
        {
            e.Attempts = entered[0].Attempts;
            e.Fate = told?.Status switch
            {
                null => Fate.Open,
                HttpStatusCode.OK => Fate.Written,
                _ => Fate.Refused,
            };
        }

        if (told is { Status: not HttpStatusCode.OK } refused)
        {
            if (refused.Body["problems"]?[0]?["field"]?.ToString() != "numbering")
            {
                _ledger.Faults.Enqueue($"{entered[0].List} {entered[0].Id} was refused: {(int)refused.Status} {refused.Body.ToJsonString()}");
            }

            await LookAsync(entered[0].Case, end);
        }

        return true;
    }

    /// <summary>Sends again, over any line, until the server says yes or no; null where time ran out before.</summary>
    private async Task<(HttpStatusCode Status, JsonNode Body)?> UntilAnsweredAsync(Func<HttpRequestMessage> make, Entered? of, CancellationToken end)
    {
        while (!end.IsCancellationRequested)
        {
            if (of is not null)
            {
                of.Attempts++;
            }

            try
            {
                using var request = make();
                request.Headers.Add("Cookie", _cookie);
                request.Headers.Add("X-Writer", _person);
                // The clock of a device may be wrong.
                request.Headers.Add("X-Entered-At", DateTimeOffset.UtcNow.AddMinutes(_chance.Next(-600, 600)).ToString("O"));
                using var answer = await _lines[_chance.Next(_lines.Length)].SendAsync(request, end);
                var text = await answer.Content.ReadAsStringAsync(end);
                _ledger.Count($"{(int)answer.StatusCode}");
                if (answer.StatusCode == HttpStatusCode.Unauthorized)
                {
                    await SignInAsync(end);
                    continue;
                }

                if (answer.StatusCode == HttpStatusCode.InternalServerError)
                {
                    _ledger.Faults.Enqueue($"{request.Method} {request.RequestUri} answered 500: {text}");
                }

                if ((int)answer.StatusCode < 500 && answer.StatusCode is not (HttpStatusCode.TooManyRequests or HttpStatusCode.RequestTimeout))
                {
                    return (answer.StatusCode, JsonNode.Parse(text)!);
                }
            }
            catch (Exception e) when (IsCut(e))
            {
                // Cut off; nobody knows whether it arrived.
                _ledger.Count("no answer");
            }

            await Task.Delay(_chance.Next(20, 400), CancellationToken.None);
        }

        return null;
    }

    /// <summary>Ways in which a line that dies shows, half of an answer among them.</summary>
    internal static bool IsCut(Exception e) =>
        e is HttpRequestException or OperationCanceledException or IOException or SocketException or JsonException;

    private async Task SignInAsync(CancellationToken end)
    {
        while (!end.IsCancellationRequested)
        {
            try
            {
                using var answer = await _lines[_chance.Next(_lines.Length)]
                    .PostAsJsonAsync("/api/sign-in", new { name = _person, password = $"demo-{_person}-bench" }, end);
                _ledger.Count($"sign-in {(int)answer.StatusCode}");
                if (answer.IsSuccessStatusCode)
                {
                    _cookie = string.Join("; ", answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0]));
                    return;
                }
            }
            catch (Exception e) when (IsCut(e))
            {
                _ledger.Count("sign-in without answer");
            }

            await Task.Delay(_chance.Next(100, 1000), CancellationToken.None);
        }
    }
}

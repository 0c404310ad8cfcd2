using System.Buffers;
using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Microsoft.Extensions.Caching.Hybrid;
using Microsoft.Net.Http.Headers;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Server.Build;
using VividSleuth.Words;

namespace VividSleuth.Server.Casebook;

/// <summary>
/// What the program works out of a case, a room at a time. Each answer carries a tag of what it was worked out of; who has that one already is told
/// so, before anything is opened.
/// </summary>
public static class AnswerEndpoints
{
    /// <summary>The rooms by the name that they have in the whole answer.</summary>
    private static readonly Dictionary<string, Func<CaseReader, object>> Rooms = new(StringComparer.Ordinal)
    {
        ["section"] = r => r.Section,
        ["places"] = r => r.Places,
        ["stations"] = r => r.Stations,
        ["progress"] = r => r.Progress,
        ["compression"] = r => r.Compression,
        ["strip"] = r => r.Strip,
        ["look"] = r => r.Look,
        ["gauge"] = r => r.Gauge,
        ["trace"] = r => r.Trace,
        ["verdict"] = r => r.Verdict,
        ["fits"] = r => r.Fits,
        ["options"] = r => r.Options,
        ["order"] = r => r.Order,
    };

    /// <summary>The room whose answer is another as time goes by.</summary>
    private const string Build = "build";

    /// <summary>What is another with a candidate in the engine; how it was stripped and why it failed is not.</summary>
    private static readonly HashSet<string> WithCandidate = new(StringComparer.Ordinal)
    {
        "section",
        "places",
        "stations",
        "look",
        "gauge",
        "verdict",
    };

    public static void MapAnswers(this RouteGroupBuilder api)
    {
        var group = api.MapGroup("/cases/{id:guid}").WithTags("casebook");
        group
            .MapGet("", (Guid id, Shelf shelf, HttpContext context) => shelf.SendAsync(id, "case", r => r.Case, context))
            .Produces<EngineCase>()
            .Produces(StatusCodes.Status304NotModified)
            .ProducesProblem(StatusCodes.Status404NotFound);
        group
            .MapGet("/answers", AnswersAsync)
            .Produces<CaseAnswers>()
            .Produces(StatusCodes.Status304NotModified)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    /// <param name="rooms">Names with commas between; all where none is named. The answer has those only.</param>
    /// <param name="with">Letter of a candidate that is thought into the engine: section, places, Look, Gauge and Verdict are then worked out with it.</param>
    private static async Task<IResult> AnswersAsync(Guid id, string? rooms, string? with, Shelf shelf, HttpContext context)
    {
        var asked = rooms is null
            ? [.. Rooms.Keys, Build]
            : rooms.Split(',', StringSplitOptions.RemoveEmptyEntries).Distinct(StringComparer.Ordinal).ToArray();
        return asked.FirstOrDefault(r => r != Build && !Rooms.ContainsKey(r)) is { } unknown
            ? throw new ProblemException(
                Problem.Of("rooms", "server.no-room-of-the-answers", ("unknown", unknown), ("join", Rooms.Keys.Append(Build)))
            )
            : await shelf.SendAsync(id, asked, with ?? "", context);
    }

    /// <summary>Answers as they were sent before, as long as nothing is another that they were worked out of.</summary>
    public sealed class Shelf(CaseDesk desk, BuildDesk build, HybridCache cache, JsonOfSentences json, Sentences sentences)
    {
        public async Task<IResult> SendAsync<T>(Guid caseId, string name, Func<CaseReader, T> answer, HttpContext context) =>
            await TagAsync(caseId, context) is { } tag
                ? Results.Bytes(await BytesAsync(caseId, name, tag, answer, context.RequestAborted), Json)
                : Results.StatusCode(StatusCodes.Status304NotModified);

        public async Task<IResult> SendAsync(Guid caseId, IReadOnlyList<string> rooms, string with, HttpContext context)
        {
            var now = rooms.Contains(Build) ? $"-{build.Now:HHmm}" : "";
            if (await TagAsync(caseId, context, now) is not { } tag)
            {
                return Results.StatusCode(StatusCodes.Status304NotModified);
            }

            var whole = new ArrayBufferWriter<byte>(1 << 16);
            var separator = "{"u8.ToArray();
            foreach (var room in rooms)
            {
                whole.Write(separator);
                whole.Write(JsonSerializer.SerializeToUtf8Bytes(room));
                whole.Write(":"u8);
                separator = ","u8.ToArray();
                if (room == Build)
                {
                    var setting = await build.SettingAsync(context.RequestAborted);
                    whole.Write(
                        await BytesAsync(caseId, room, tag, r => r.BuildAt(setting.Work, setting.Clocks, setting.Now), context.RequestAborted)
                    );
                    continue;
                }

                var of = WithCandidate.Contains(room) ? with : "";
                whole.Write(
                    of.Length == 0
                        ? await BytesAsync(caseId, room, tag, Rooms[room], context.RequestAborted)
                        : await BytesAsync(caseId, $"{room}.{of}", tag, r => Rooms[room](r.With(of)), context.RequestAborted)
                );
            }

            whole.Write(rooms.Count > 0 ? "}"u8 : "{}"u8);
            return Results.Bytes(whole.WrittenMemory, Json);
        }

        private const string Json = "application/json; charset=utf-8";

        /// <summary>Null where the asker has it already.</summary>
        private async Task<string?> TagAsync(Guid caseId, HttpContext context, string now = "")
        {
            var tag = new EntityTagHeaderValue(
                $"\"{await desk.TagAsync(caseId, context.RequestAborted)}-{sentences.Language}-{sentences.Lengths}{now}\"",
                isWeak: true
            );
            context.Response.Headers[Moment.RevisionHeader] = (desk.Revision ?? 0).ToString(CultureInfo.InvariantCulture);
            return context.Has(tag) ? null : tag.Tag.ToString();
        }

        private async ValueTask<byte[]> BytesAsync<T>(Guid caseId, string name, string tag, Func<CaseReader, T> answer, CancellationToken cancel)
        {
            // Opened by each request with its own connection: of two that wait for the same answer, one may be called off.
            var reader = await desk.OpenAsync(caseId, cancel);
            var options = json.Of(sentences);
            return await cache.GetOrCreateAsync(
                $"{caseId}/{name}/{tag}",
                _ =>
                {
                    var began = Stopwatch.GetTimestamp();
                    object? value = answer(reader);
                    Operation.AnswerTime.Record(Operation.Since(began), KeyValuePair.Create<string, object?>("room", name));
                    return ValueTask.FromResult(JsonSerializer.SerializeToUtf8Bytes(value, value!.GetType(), options));
                },
                cancellationToken: cancel
            );
        }
    }
}

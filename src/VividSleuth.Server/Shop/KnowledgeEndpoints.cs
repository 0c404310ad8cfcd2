using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Net.Http.Headers;
using VividSleuth.Core;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Words;

namespace VividSleuth.Server.Shop;

/// <param name="Signs">Ids of the signs that it leaves.</param>
public sealed record CauseHead(string Id, string Name, string Family, IReadOnlyList<string> Signs);

/// <summary>What the screens need of the knowledge base: the words to offer.</summary>
/// <param name="Called">What the words are called here by which records know a tick, a tool or a level of measuring; none where they are called so.</param>
public sealed record KnowledgeView(
    IReadOnlyList<KnownSign> Signs,
    IReadOnlyList<KnownCharacteristic> Characteristics,
    IReadOnlyList<KnownRisk> Risks,
    IReadOnlyList<CauseHead> Causes,
    IReadOnlyList<KindView> Kinds,
    IReadOnlyList<ScriptHead> Scripts,
    IReadOnlyList<KnownShot> Shots,
    IReadOnlyList<KnownCourse> Courses,
    IReadOnlyList<KnownExamination> Examinations,
    IReadOnlyList<KnownSizes> Sizes,
    IReadOnlyList<KnownReuse> ReuseRisks,
    IReadOnlyList<KnownGroupHead> Groups,
    IReadOnlyDictionary<string, string> Called
);

public sealed record KnownGroupHead(string Id, string Name);

/// <param name="Shop">One of the shop's own.</param>
public sealed record ScriptHead(string Id, string Name, string Says, int Steps, bool Shop);

public sealed record KindView(string Id, Fact Name, string Letters, string Suffix, Stratum Stratum, StationScope Scope, IReadOnlyList<string> Mates);

public static class KnowledgeEndpoints
{
    /// <summary>As it was sent before, for as long as somebody has this state of the knowledge, by the unit in which its sentences are told.</summary>
    private static readonly ConditionalWeakTable<KnowledgeBase, ConcurrentDictionary<string, Told>> Sent = [];

    public static void MapKnowledge(this RouteGroupBuilder api)
    {
        api.MapGet("/knowledge", Send).Produces<KnowledgeView>().Produces(StatusCodes.Status304NotModified).WithTags("shop").ForStudents();
    }

    /// <summary>Who has it already is told so: it is the largest of all answers and seldom changes.</summary>
    private static IResult Send(KnowledgeBase knowledge, JsonOfSentences json, Sentences sentences, HttpContext context)
    {
        var told = Sent.GetOrCreateValue(knowledge)
            .GetOrAdd($"{sentences.Language}-{sentences.Lengths}", _ => Told.Of(View(knowledge), json.Of(sentences)));
        return context.Has(new EntityTagHeaderValue(told.Tag))
            ? Results.StatusCode(StatusCodes.Status304NotModified)
            : Results.Bytes(told.Json, "application/json; charset=utf-8");
    }

    private sealed record Told(byte[] Json, string Tag)
    {
        public static Told Of(KnowledgeView view, JsonSerializerOptions options)
        {
            var json = JsonSerializer.SerializeToUtf8Bytes(view, options);
            return new Told(json, $"\"{Convert.ToHexStringLower(SHA256.HashData(json).AsSpan(0, 16))}\"");
        }
    }

    private static KnowledgeView View(KnowledgeBase k) =>
        new(
            k.Signs,
            k.Characteristics,
            k.Risks,
            [.. k.Causes.Select(s => new CauseHead(s.Id, s.Name, s.Family, [.. s.Chain.SelectMany(l => l.Predicts).Select(p => p.Sign).Distinct()]))],
            [.. PartKinds.All.Select(p => new KindView(p.Id, p.Name, p.Letters, p.Suffix, p.Stratum, p.Scope, p.Mates))],
            [.. k.StripScripts.Select(s => new ScriptHead(s.Id, s.Name, s.Says, s.Steps.Count, s.Shop))],
            k.Shots,
            k.Courses,
            k.Examinations,
            k.Sizes,
            k.ReuseRisks,
            [.. k.Groups.Select(g => new KnownGroupHead(g.Id, g.Name))],
            k.WordsOfKeys.Where(w => w.Key != w.Value).ToDictionary(w => w.Key, w => w.Value, StringComparer.Ordinal)
        );
}

using System.Collections.Concurrent;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;
using VividSleuth.Core;
using VividSleuth.Core.Measures;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

namespace VividSleuth.Server;

/// <summary>
/// In which language and unit whoever asks is answered: as the person chose, else, of the unit, as the engine is told, else as the shop works.
/// </summary>
public static class Speech
{
    /// <summary>Request header: “mm” or “in”, where a person chose one.</summary>
    public const string Header = "X-Lengths";

    /// <summary>The same in the address, of what a browser fetches by itself: a file to be kept.</summary>
    private const string Query = "lengths";

    /// <summary>Cookie: the tag of a language, where a person chose one on this device. What a browser fetches by itself has it too.</summary>
    public const string LanguageCookie = "language";

    /// <summary>The sentences for who asks; in millimetres until it is known who and of what.</summary>
    public static Sentences Sentences(this HttpContext? context) =>
        context is null ? Words.Sentences.English : context.Features.Get<Sentences>() ?? Words.Sentences.Of(Chosen(context) ?? Language.English);

    /// <summary>The language that was chosen on the device; null where none was.</summary>
    private static Language? Chosen(HttpContext context) => Locale.Tagged(context.Request.Cookies[LanguageCookie])?.Language;

    public static void Set(HttpContext context, LengthUnit? engine, ShopSettings shop) =>
        context.Features.Set(
            Words
                .Sentences.Of(Chosen(context) ?? shop.Language)
                .In(
                    (context.Request.Headers.TryGetValue(Header, out var chosen) ? chosen : context.Request.Query[Query]).ToString() switch
                    {
                        "mm" => LengthUnit.Mm,
                        "in" => LengthUnit.Inch,
                        _ => engine ?? shop.Lengths,
                    }
                )
        );
}

/// <summary>Facts are written as sentences for whoever is answered.</summary>
internal sealed class SpokenJson(IHttpContextAccessor contexts) : IConfigureOptions<JsonOptions>
{
    public void Configure(JsonOptions options) => options.SerializerOptions.Converters.Add(new FactJson(() => contexts.HttpContext.Sentences()));
}

/// <summary>
/// The same where an answer is written beside the request, as a cache does: there nobody is known who asks, so the sentences are given.
/// </summary>
public sealed class JsonOfSentences(IOptions<JsonOptions> json)
{
    private readonly ConcurrentDictionary<(Language, LengthUnit), JsonSerializerOptions> _options = new();

    public JsonSerializerOptions Of(Sentences sentences) =>
        _options.GetOrAdd(
            (sentences.Language, sentences.Lengths),
            _ =>
            {
                var options = new JsonSerializerOptions(json.Value.SerializerOptions);
                options.Converters.Remove(options.Converters.First(c => c is FactJson));
                options.Converters.Add(new FactJson(() => sentences));
                return options;
            }
        );
}

using Microsoft.AspNetCore.StaticFiles;

namespace VividSleuth.Server;

/// <summary>How the built front end is served: files with a hash in their name forever, the page itself never from a cache.</summary>
public static class StaticPages
{
    /// <summary>Addresses at which the page answers: all that are no file, but for those of the interface and of the watch.</summary>
    public const string Addresses = "{*path:nonfile:regex(^(?!(api|health)(/|$)))}";

    public static StaticFileOptions Options { get; } =
        new()
        {
            ContentTypeProvider = new FileExtensionContentTypeProvider(),
            OnPrepareResponse = c =>
            {
                var hashed = c.Context.Request.Path.StartsWithSegments("/assets", StringComparison.Ordinal);
                c.Context.Response.Headers.CacheControl = hashed ? "public, max-age=31536000, immutable" : "no-cache";
            },
        };
}

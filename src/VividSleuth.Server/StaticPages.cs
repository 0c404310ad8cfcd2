using Microsoft.AspNetCore.StaticFiles;

namespace VividSleuth.Server;

/// <summary>How the built front end is served: files with a hash in their name forever, the page itself never from a cache.</summary>
public static class StaticPages
{
    public static StaticFileOptions Options { get; } =
        new()
        {
            ContentTypeProvider = new FileExtensionContentTypeProvider(),
            OnPrepareResponse = c =>
            {
                var hashed = c.Context.Request.Path.StartsWithSegments("/assets", StringComparison.Ordinal);
                c.Context.Response.Headers.CacheControl = hashed ? "public, max-age=31536000, immutable" : "no-cache";
                c.Context.Response.Headers.XContentTypeOptions = "nosniff";
                c.Context.Response.Headers.ContentSecurityPolicy =
                    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'";
            },
        };
}

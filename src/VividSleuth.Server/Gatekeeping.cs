using System.Security.Claims;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.Net.Http.Headers;

namespace VividSleuth.Server;

/// <summary>What holds for every request before anything of it is looked at, and for every answer: where it may come from, how large it may be, and what a browser may do with it.</summary>
public static class Gatekeeping
{
    /// <summary>Bytes of a body, where the endpoint says nothing else.</summary>
    public const long MostBytes = 1024 * 1024;

    /// <summary>The same of somebody who is not signed in.</summary>
    private const long MostBytesOfAStranger = 16 * 1024;

    private const string Policy =
        "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    /// <summary>An answer that is no page: nothing of it may run or be framed.</summary>
    private const string PolicyOfData = "default-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'; sandbox";

    /// <summary>Headers on all answers; what an endpoint sets itself stands.</summary>
    public static void UseHeaders(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                context.Response.OnStarting(() =>
                {
                    var headers = context.Response.Headers;
                    var isData = IsData(context.Request.Path);
                    if (context.Request.IsHttps)
                    {
                        headers.StrictTransportSecurity = "max-age=31536000";
                    }

                    headers.XContentTypeOptions = "nosniff";
                    headers["Referrer-Policy"] = "same-origin";
                    headers["Cross-Origin-Opener-Policy"] = "same-origin";
                    headers["Cross-Origin-Resource-Policy"] = "same-origin";
                    headers["Permissions-Policy"] =
                        "accelerometer=(), camera=(self), geolocation=(), gyroscope=(), magnetometer=(), microphone=(self), payment=(), usb=()";
                    headers.ContentSecurityPolicy = isData ? PolicyOfData : Policy;
                    if (isData && headers.CacheControl.Count == 0)
                    {
                        headers.CacheControl = "no-store";
                    }

                    return Task.CompletedTask;
                });
                return next(context);
            }
        );

    /// <summary>
    /// Refuses what another site sends through a person's browser: another port or a sibling of our name counts as the same site, so the cookie alone
    /// does not keep it out. Source: W3C Fetch Metadata; OWASP, Cross-Site Request Forgery Prevention. What says neither is no browser.
    /// </summary>
    public static void UseOwnOriginOnly(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                if (HttpMethods.IsGet(context.Request.Method) || HttpMethods.IsHead(context.Request.Method) || IsOwn(context.Request))
                {
                    return next(context);
                }

                SecurityLog.OfAnotherSite(context);
                return Problems.Write(context, StatusCodes.Status403Forbidden, "server.another-site");
            }
        );

    /// <summary>Who is not signed in sends a name and a password, or a code, and nothing larger.</summary>
    public static void UseSmallBodiesOfStrangers(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                if (context.User.Identity is { IsAuthenticated: true } || context.Request.Body == Stream.Null)
                {
                    return next(context);
                }

                if (context.GetEndpoint()?.Metadata.GetMetadata<IAuthorizeData>() is not null)
                {
                    // Told first, and before anything of it is read: a picture of somebody whose session has ended is not too large, it waits.
                    return Problems.Write(context, StatusCodes.Status401Unauthorized, "server.not-signed-in");
                }

                // Few endpoints say themselves how much they take of anyone.
                if (context.GetEndpoint()?.Metadata.GetMetadata<IRequestSizeLimitMetadata>() is not null)
                {
                    return next(context);
                }

                if (context.Request.ContentLength > MostBytesOfAStranger)
                {
                    return Problems.Write(context, StatusCodes.Status413PayloadTooLarge, "server.body-too-large");
                }

                if (context.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } size)
                {
                    size.MaxRequestBodySize = MostBytesOfAStranger;
                }

                return next(context);
            }
        );

    /// <summary>So many streams of one kind a person may have open at one instance.</summary>
    public static IServiceCollection AddStreamLimits(this IServiceCollection services) =>
        services.AddRateLimiter(o =>
        {
            o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            o.OnRejected = async (rejected, _) =>
                await Problems.Write(rejected.HttpContext, StatusCodes.Status429TooManyRequests, "server.too-many-streams");
            foreach (var (name, most) in new[] { (GaugeStreams, 4), (EventStreams, 24) })
            {
                o.AddPolicy(
                    name,
                    context =>
                        RateLimitPartition.GetConcurrencyLimiter(
                            context.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? "",
                            _ => new ConcurrencyLimiterOptions { PermitLimit = most, QueueLimit = 0 }
                        )
                );
            }
        });

    public const string GaugeStreams = "gauge-streams";

    public const string EventStreams = "event-streams";

    private static bool IsData(PathString path) =>
        path.StartsWithSegments("/api", StringComparison.OrdinalIgnoreCase) || path.StartsWithSegments("/health", StringComparison.OrdinalIgnoreCase);

    private static bool IsOwn(HttpRequest request)
    {
        var site = request.Headers["Sec-Fetch-Site"].ToString();
        if (site.Length > 0)
        {
            return site is "same-origin" or "none";
        }

        var origin = request.Headers.Origin.ToString();
        return origin.Length == 0
            || (
                Uri.TryCreate(origin, UriKind.Absolute, out var from)
                && string.Equals(from.Authority, request.Host.Value, StringComparison.OrdinalIgnoreCase)
                && from.Scheme == request.Scheme
            );
    }
}

using Microsoft.AspNetCore.Authentication.Cookies;

namespace VividSleuth.Server.Shop;

/// <summary>
/// Over TLS a cookie is named so that browsers hold it to this very address, without a sibling of the name or a page without TLS being able to set it;
/// on loopback without TLS they would refuse that name. Source: RFC 6265bis, “__Host-” prefix; OWASP ASVS 5, V3.3.1 (number from memory).
/// </summary>
public sealed class OwnCookies : ICookieManager
{
    private readonly ChunkingCookieManager _cookies = new();

    public static string Name(HttpContext context, string key) => context.Request.IsHttps ? $"__Host-{key}" : key;

    public string? GetRequestCookie(HttpContext context, string key) => _cookies.GetRequestCookie(context, Name(context, key));

    public void AppendResponseCookie(HttpContext context, string key, string? value, CookieOptions options) =>
        _cookies.AppendResponseCookie(context, Name(context, key), value, options);

    public void DeleteCookie(HttpContext context, string key, CookieOptions options) => _cookies.DeleteCookie(context, Name(context, key), options);
}

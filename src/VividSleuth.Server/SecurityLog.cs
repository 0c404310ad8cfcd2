namespace VividSleuth.Server;

/// <summary>
/// Who came in, who did not, and what was refused, one line each, for whoever looks after the shop; never a password, a code or a key. Changes of people
/// and roles stand in the record of changes. Source: OWASP ASVS 5, V16.3 (number from memory).
/// </summary>
public static partial class SecurityLog
{
    /// <summary>Category of the log, so that it can be kept longer than the rest.</summary>
    private const string Category = "VividSleuth.Security";

    public static void Came(HttpContext context, string name) => CameIn(Log(context), name, At(context));

    public static void Refused(HttpContext context, string name) => WasRefused(Log(context), name, At(context));

    public static void Slowed(HttpContext context) => WasSlowed(Log(context), context.Request.Path, At(context));

    public static void Left(HttpContext context, string name) => WentOut(Log(context), name, At(context));

    public static void MayNot(HttpContext context) =>
        NotAllowed(Log(context), context.User.Identity?.Name ?? "", context.Request.Method, context.Request.Path, At(context));

    public static void OfAnotherSite(HttpContext context) =>
        AnotherSite(Log(context), context.Request.Headers.Origin.ToString(), context.Request.Method, context.Request.Path, At(context));

    private static ILogger Log(HttpContext context) => context.RequestServices.GetRequiredService<ILoggerFactory>().CreateLogger(Category);

    private static string At(HttpContext context) => context.Connection.RemoteIpAddress?.ToString() ?? "";

    [LoggerMessage(1, LogLevel.Information, "{Name} signed in from {Address}.")]
    private static partial void CameIn(ILogger log, string name, string address);

    [LoggerMessage(2, LogLevel.Warning, "Name and password do not fit: {Name} from {Address}.")]
    private static partial void WasRefused(ILogger log, string name, string address);

    [LoggerMessage(3, LogLevel.Warning, "Too many tries at {Path} from {Address}.")]
    private static partial void WasSlowed(ILogger log, string path, string address);

    [LoggerMessage(4, LogLevel.Information, "{Name} signed out from {Address}.")]
    private static partial void WentOut(ILogger log, string name, string address);

    [LoggerMessage(5, LogLevel.Warning, "{Name} may not {Method} {Path}, from {Address}.")]
    private static partial void NotAllowed(ILogger log, string name, string method, string path, string address);

    [LoggerMessage(6, LogLevel.Warning, "Sent by another site ({Origin}): {Method} {Path}, from {Address}.")]
    private static partial void AnotherSite(ILogger log, string origin, string method, string path, string address);
}

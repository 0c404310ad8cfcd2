namespace VividSleuth.Server;

/// <summary>
/// A request is carried to its end, also where whoever sent it has gone: what he entered is then there when he sends it again, and no command to the
/// database is broken off half-way. A connection on which one was broken off has answered the next request with what belonged to the last (“Received
/// unexpected backend message DataRow”, seen with Npgsql and statements that it prepares by itself).
/// </summary>
public static class SeenThrough
{
    private static readonly object Key = new();

    public static void UseSeenThrough(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                context.Items[Key] = context.RequestAborted;
                context.RequestAborted = CancellationToken.None;
                return next(context);
            }
        );

    /// <summary>What goes on for as long as somebody listens ends when he goes: that is no failure. Behind the handler of exceptions.</summary>
    public static void UseQuietEnd(this IApplicationBuilder app) =>
        app.Use(
            async (context, next) =>
            {
                try
                {
                    await next(context);
                }
                catch (OperationCanceledException) when (context.Gone().IsCancellationRequested)
                {
                    // Nobody hears it.
                }
            }
        );

    /// <summary>When whoever asked has gone; for what goes on for as long as somebody listens.</summary>
    public static CancellationToken Gone(this HttpContext context) => context.Items[Key] is CancellationToken gone ? gone : CancellationToken.None;
}

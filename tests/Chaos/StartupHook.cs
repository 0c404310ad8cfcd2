/// <summary>Loaded into an instance by DOTNET_STARTUP_HOOKS, so that it finds the clock by the name of this program.</summary>
// The name that the runtime looks for has no namespace.
#pragma warning disable MA0047
internal static class StartupHook
{
    public static void Initialize() { }
}

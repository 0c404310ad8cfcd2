using System.Diagnostics;

namespace VividSleuth.Server.Tests;

/// <summary>Programs of other people that look at what ours made.</summary>
internal static class Outside
{
    /// <returns>What it printed.</returns>
    public static async Task<string> RunAsync(string program, params string[] args)
    {
        using var process = Process.Start(new ProcessStartInfo(program, args) { RedirectStandardOutput = true, UseShellExecute = false })!;
        var output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return output;
    }
}

using System.Globalization;
using Microsoft.AspNetCore.Hosting;
using Microsoft.Extensions.DependencyInjection;

[assembly: HostingStartup(typeof(VividSleuth.Chaos.WrongClock))]

namespace VividSleuth.Chaos;

/// <summary>Gives an instance a clock that is ahead by what a file says; the file may change at any moment.</summary>
public sealed class WrongClock : IHostingStartup
{
    /// <summary>Environment variable that names the file.</summary>
    public const string Variable = "CHAOS_CLOCK";

    public void Configure(IWebHostBuilder builder) =>
        builder.ConfigureServices(s => s.AddSingleton<TimeProvider>(new Jumping(Environment.GetEnvironmentVariable(Variable)!)));

    private sealed class Jumping(string file) : TimeProvider
    {
        private long _looked;
        private long _ahead;

        public override DateTimeOffset GetUtcNow()
        {
            var now = Environment.TickCount64;
            if (now - Interlocked.Read(ref _looked) > 200)
            {
                Interlocked.Exchange(ref _looked, now);
                if (long.TryParse(File.ReadAllText(file), CultureInfo.InvariantCulture, out var ahead))
                {
                    Interlocked.Exchange(ref _ahead, ahead);
                }
            }

            return base.GetUtcNow().AddSeconds(Interlocked.Read(ref _ahead));
        }
    }
}

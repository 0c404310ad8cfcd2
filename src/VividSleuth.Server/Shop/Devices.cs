using VividSleuth.Core;

namespace VividSleuth.Server.Shop;

/// <summary>
/// To which devices of the shop the server may connect. The operator says so in the configuration (Devices:Allowed, a list of host:port, or
/// host:* for all ports of one host); what is not there is not connected to, whatever a lead writes into the shop's settings.
/// </summary>
public sealed class Devices(IConfiguration configuration)
{
    private readonly string[] _allowed = configuration.GetSection("Devices:Allowed").Get<string[]>() ?? [];

    /// <summary>Host and port of an address that may be connected to.</summary>
    /// <param name="field">Field of the settings that holds it.</param>
    /// <param name="what">What it is the address of, for the message: a gauge, a label printer.</param>
    /// <exception cref="ProblemException">It is no host with a port, or the operator has not allowed it.</exception>
    public (string Host, int Port) Parts(string address, string field, string what)
    {
        var at = address.LastIndexOf(':');
        if (at <= 0 || !int.TryParse(address[(at + 1)..], out var port) || port is <= 0 or >= 65536)
        {
            throw new ProblemException(Problem.Of(field, "server.no-address-of", ("address", address), ("what", Fact.Of(what))));
        }

        var host = address[..at];
        return Array.Exists(_allowed, a => Same(a, $"{host}:{port}") || Same(a, $"{host}:*"))
            ? (host, port)
            : throw new ProblemException(Problem.Of(field, "server.server-may-not-connect", ("address", address)));
    }

    private static bool Same(string a, string b) => a.Trim().Equals(b, StringComparison.OrdinalIgnoreCase);
}

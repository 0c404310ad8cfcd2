using System.Globalization;
using System.Text.RegularExpressions;
using VividSleuth.Core.Arrival;

namespace VividSleuth.Core.Index;

/// <summary>
/// A place in the engine, short enough for tape and engraver: kind letters, station number, suffix. R4L is the lower shell of
/// rod 4. Written in capitals; a label underlines 6 and 9.
/// </summary>
public sealed partial record Address(PartKind Kind, int Station)
{
    public string Code =>
        Kind.Scope == StationScope.Engine ? Kind.Letters : string.Create(CultureInfo.InvariantCulture, $"{Kind.Letters}{Station}{Kind.Suffix}");

    /// <summary>What a mechanic would say: "lower shell, in the cap, of cylinder 4".</summary>
    public string Words =>
        Kind.Scope switch
        {
            StationScope.Engine => Kind.Name,
            StationScope.Cylinder when Kind.Id is "rod" or "piston" or "bore" or "wrist-pin" or "spark-plug" => $"{Kind.Name} {Station}",
            StationScope.Cylinder => $"{Kind.Name}, cylinder {Station}",
            StationScope.Bank => $"{Kind.Name} {Station}",
            _ => $"{Kind.Name} {Station}",
        };

    public override string ToString() => Code;

    [GeneratedRegex("^(?<letters>[A-Z]{1,2})[0-9]{0,2}(?<suffix>[A-Z])?$", RegexOptions.CultureInvariant)]
    internal static partial Regex Pattern();
}

/// <summary>All places of one engine, in the order of the strata and then of the stations.</summary>
public sealed class AddressTable
{
    private readonly Dictionary<string, Address> _byCode;
    private readonly Dictionary<(string Kind, int Station), Address> _byKind;

    public AddressTable(Engine engine)
    {
        Engine = engine;
        All = PartKinds.All.Where(k => k.Applies(engine.Layout)).SelectMany(k => Stations(engine, k.Scope).Select(s => new Address(k, s))).ToArray();
        _byCode = All.ToDictionary(a => a.Code, StringComparer.OrdinalIgnoreCase);
        _byKind = All.ToDictionary(a => (a.Kind.Id, a.Station));
    }

    public Engine Engine { get; }

    public IReadOnlyList<Address> All { get; }

    /// <summary>The place, or null where the engine has none of the kind there.</summary>
    public Address? Find(string kind, int station) => _byKind.GetValueOrDefault((kind, station));

    public Address? Find(string? code) => _byCode.GetValueOrDefault(Normal(code));

    /// <summary>Reads what a person typed or a scanner sent.</summary>
    /// <exception cref="ProblemException">It is no address of this engine; the problem says what is.</exception>
    public Address Parse(string? typed, string field = "place")
    {
        if (Find(typed) is { } found)
        {
            return found;
        }

        var match = Address.Pattern().Match(Normal(typed));
        var like = match.Success
            ? All.Where(a => a.Kind.Letters == match.Groups["letters"].Value && a.Kind.Suffix == match.Groups["suffix"].Value).ToArray()
            : [];
        throw new ProblemException(
            like.Length > 0
                ? new Problem(
                    field,
                    $"This engine has no {Normal(typed)}.",
                    $"{Upper(like[0].Kind.Name)} goes from {like[0].Code} to {like[^1].Code}."
                )
                : new Problem(field, $"“{typed}” is no address of this engine.", "Type one such as R4 or K4, or touch the part in the long section.")
        );
    }

    private static string Normal(string? code) => (code ?? "").Trim().ToUpperInvariant();

    private static string Upper(string name) => char.ToUpperInvariant(name[0]) + name[1..];

    private static IEnumerable<int> Stations(Engine engine, StationScope scope) =>
        scope switch
        {
            StationScope.Engine => [0],
            StationScope.Bank => Enumerable.Range(1, engine.Banks),
            StationScope.Cylinder => Enumerable.Range(1, engine.Layout.Cylinders),
            StationScope.Crankpin => Enumerable.Range(1, engine.Crankpins),
            StationScope.Main => Enumerable.Range(1, engine.Mains),
            _ => throw new ArgumentOutOfRangeException(nameof(scope)),
        };
}

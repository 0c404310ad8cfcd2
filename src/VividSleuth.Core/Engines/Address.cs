using System.Globalization;
using System.Text.RegularExpressions;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Engines;

/// <summary>
/// A place in the engine, short enough for tape and engraver: kind letters, station number, suffix, and a last digit where there
/// are several at one station. R4L is the lower shell of rod 4, V3A2 the second inlet valve of cylinder 3. Written in capitals; a
/// label underlines 6 and 9.
/// </summary>
/// <param name="Nth">Which of several at the station, from 1; 0 where there is only one.</param>
/// <param name="Of">Letter of the candidate whose part it is, behind a dot; empty for the engine’s own.</param>
public sealed partial record Address(PartKind Kind, int Station, int Nth = 0, string Of = "")
{
    public string Code { get; } =
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Kind.Letters}{(Kind.Scope == StationScope.Engine ? "" : Station.ToString(CultureInfo.InvariantCulture))}{Kind.Suffix}{(Nth == 0 ? "" : Nth.ToString(CultureInfo.InvariantCulture))}{(Of.Length == 0 ? "" : $".{Of}")}"
        );

    /// <summary>True of a part that is offered and not in the engine.</summary>
    public static bool IsCandidate(string code) => code.Contains('.', StringComparison.Ordinal);

    /// <summary>What a mechanic would say: "lower shell, in the cap, of cylinder 4".</summary>
    public Fact Words
    {
        get
        {
            var code = Kind.Scope switch
            {
                StationScope.Engine => "engines.place",
                StationScope.Cylinder when Kind.Id is "rod" or "piston" or "bore" or "wrist-pin" or "spark-plug" or "barrel" or "liner" =>
                    "engines.place-at",
                StationScope.Cylinder => "engines.place-of-cylinder",
                StationScope.Camshaft when Kind.Id != PartKinds.Camshaft => "engines.place-of-camshaft",
                _ => "engines.place-at",
            };
            var place = Fact.Of(code, ("kind", Kind.Name), ("station", Station), ("nth", Nth == 0 ? null : Nth));
            return Of.Length == 0 ? place : Fact.Of("engines.place-of-candidate", ("place", place), ("letter", Of));
        }
    }

    public override string ToString() => Code;

    [GeneratedRegex(
        @"^(?<letters>[A-Z]{1,2})[0-9]{0,2}(?<suffix>[A-Z])?[0-9]{0,2}(\.[A-Z])?$",
        RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture
    )]
    internal static partial Regex Pattern();
}

/// <summary>All places of one engine, in the order of the strata and then of the stations.</summary>
public sealed class AddressTable
{
    private readonly Dictionary<string, Address> _byCode;
    private readonly Dictionary<(string Kind, int Station, int Nth), Address> _byKind;
    private readonly ILookup<string, Address> _ofKind;
    private readonly ILookup<string, Address> _ownLike;
    private readonly HashSet<string> _all;

    /// <param name="candidates">Parts that are offered; their places can be parsed, and are none of the engine’s.</param>
    /// <param name="with">Letter of the candidate that is thought into the engine: its places stand in for those that it would take. Empty for the engine as it is.</param>
    public AddressTable(Engine engine, IReadOnlyList<Candidate>? candidates = null, string with = "")
    {
        Engine = engine;
        Candidates = candidates ?? [];
        With = with;
        // What a candidate had at a place that a corrected layout has no more is the candidate's still.
        var own = engine.Layout.OwnParts.Select(o => new Address(PartKinds.Of(o), 0)).ToArray();
        Own = [.. PartKinds.All.Where(k => k.Applies(engine.Layout)).SelectMany(k => Of(engine, k)), .. own.Where(a => !Address.IsCandidate(a.Code))];
        var offered = Candidates.SelectMany(c => CandidateSets.Takes(c, this).Select(a => new Address(a.Kind, a.Station, a.Nth, c.Letter))).ToArray();
        var thought = offered.Where(a => a.Of == with).ToDictionary(a => new Address(a.Kind, a.Station, a.Nth));
        All = thought.Count == 0 ? Own : [.. Own.Select(a => thought.GetValueOrDefault(a, a))];
        _byCode = Own.Concat(own.Where(a => Address.IsCandidate(a.Code))).Concat(offered).ToDictionary(a => a.Code, StringComparer.OrdinalIgnoreCase);
        _byKind = All.ToDictionary(a => (a.Kind.Id, a.Station, a.Nth));
        _ofKind = All.ToLookup(a => a.Kind.Id, StringComparer.Ordinal);
        _ownLike = Own.Where(a => a.Kind.Own is { Left: false }).ToLookup(a => a.Kind.ReadAs, StringComparer.Ordinal);
        _all = All.Select(a => a.Code).ToHashSet(StringComparer.OrdinalIgnoreCase);
    }

    public Engine Engine { get; }

    public IReadOnlyList<Candidate> Candidates { get; }

    /// <summary>Letter of the candidate that is thought into the engine; empty for the engine as it is.</summary>
    public string With { get; }

    /// <summary>The engine’s own places.</summary>
    public IReadOnlyList<Address> Own { get; }

    /// <summary>The engine’s places, with those of the candidate that is thought into it.</summary>
    public IReadOnlyList<Address> All { get; }

    /// <summary>Every place that something can be recorded at: the engine’s own and those of its candidates.</summary>
    public IEnumerable<Address> Everywhere => _byCode.Values;

    /// <summary>Whether a place is one of the engine’s, with the candidate that is thought into it.</summary>
    public bool Has(string code) => _all.Contains(code);

    /// <summary>The place, or null where the engine has none of the kind there; of several at a station the first.</summary>
    public Address? Find(string kind, int station) => _byKind.GetValueOrDefault((kind, station, 0)) ?? _byKind.GetValueOrDefault((kind, station, 1));

    /// <summary>All places of a kind at a station.</summary>
    public IEnumerable<Address> At(string kind, int station) => OfKind(kind).Where(a => a.Station == station);

    /// <summary>Parts that only this engine has and that are read as the kind.</summary>
    public IEnumerable<Address> OwnLike(string kind) => _ownLike[kind];

    /// <summary>All places of a kind.</summary>
    public IEnumerable<Address> OfKind(string kind) => _ofKind[kind];

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
                ? Problem.Of(
                    field,
                    "engines.no-such-station",
                    ("typed", Normal(typed)),
                    ("kind", like[0].Kind.Name),
                    ("first", like[0].Code),
                    ("last", like[^1].Code)
                )
                : Problem.Of(field, "engines.no-address", ("typed", typed))
        );
    }

    private static string Normal(string? code) => (code ?? "").Trim().ToUpperInvariant();

    private static IEnumerable<Address> Of(Engine engine, PartKind kind)
    {
        var count = kind.Count(engine);
        foreach (var station in Stations(engine, kind.Scope).Where(s => kind.StandsAt(engine, s)))
        {
            if (count == 1)
            {
                yield return new Address(kind, station);
                continue;
            }

            for (var nth = 1; nth <= count; nth++)
            {
                yield return new Address(kind, station, nth);
            }
        }
    }

    private static IEnumerable<int> Stations(Engine engine, StationScope scope) =>
        scope switch
        {
            StationScope.Engine => [0],
            StationScope.Bank => Enumerable.Range(1, engine.Banks),
            StationScope.Cylinder => Enumerable.Range(1, engine.Layout.Cylinders),
            StationScope.Crankpin => Enumerable.Range(1, engine.Crankpins),
            StationScope.Main => Enumerable.Range(1, engine.Mains),
            StationScope.Camshaft => Enumerable.Range(1, engine.Camshafts),
            _ => throw new ArgumentOutOfRangeException(nameof(scope)),
        };
}

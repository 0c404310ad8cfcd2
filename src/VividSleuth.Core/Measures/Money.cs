namespace VividSleuth.Core.Measures;

/// <summary>An amount of money. Exact: decimal, never rounded but where it is converted.</summary>
/// <param name="Currency">Code after ISO 4217.</param>
public readonly record struct Money(decimal Amount, string Currency);

/// <summary>Codes of currencies and how many digits each has behind the point. Source: ISO 4217, the codes in use; from memory.</summary>
public static class Currencies
{
    private const string Two =
        "AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BRL BSD BTN BWP BYN BZD CAD CDF CHF CNY COP CRC CUP CVE CZK DKK DOP DZD EGP "
        + "ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HTG HUF IDR ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD "
        + "MMK MNT MOP MRU MUR MVR MWK MXN MYR MZN NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SOS SRD "
        + "SSP STN SVC SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD UYU UZS VED VES WST XCD YER ZAR ZMW";

    private const string None = "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF";

    private const string Three = "BHD IQD JOD KWD LYD OMR TND";

    private static readonly Dictionary<string, int> Digits = Two.Split(' ')
        .Select(c => (c, 2))
        .Concat(None.Split(' ').Select(c => (c, 0)))
        .Concat(Three.Split(' ').Select(c => (c, 3)))
        .ToDictionary(x => x.Item1, x => x.Item2, StringComparer.Ordinal);

    public static IReadOnlyCollection<string> All => Digits.Keys;

    public static bool Has(string code) => Digits.ContainsKey(code);

    /// <summary>Digits behind the point.</summary>
    public static int DigitsOf(string code) => Digits.GetValueOrDefault(code, 2);

    /// <summary>To the smallest coin, halves away from nothing.</summary>
    public static decimal Rounded(decimal amount, string code) => Math.Round(amount, DigitsOf(code), MidpointRounding.AwayFromZero);
}

/// <summary>
/// Turns money into one currency by the rates that count. Each amount is rounded to the smallest coin by itself, so that what is shown line by line adds up
/// to what is shown below it, in whatever order the lines come.
/// </summary>
/// <param name="Base">Currency that everything is told in.</param>
/// <param name="Rates">By code, how much of the base one unit is.</param>
public sealed record Exchange(string Base, IReadOnlyDictionary<string, decimal> Rates)
{
    /// <returns>Null where no rate is known.</returns>
    public decimal? InBase(Money money) =>
        money.Currency == Base ? Currencies.Rounded(money.Amount, Base)
        : Rates.TryGetValue(money.Currency, out var rate) ? Currencies.Rounded(money.Amount * rate, Base)
        : null;
}

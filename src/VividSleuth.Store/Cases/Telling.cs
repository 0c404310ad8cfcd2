using VividSleuth.Core;

namespace VividSleuth.Store.Cases;

/// <summary>How the casebook is told in one language.</summary>
/// <param name="Tag">Of the language after BCP 47.</param>
/// <param name="Say">Makes a sentence of a fact, also of one that holds English names of the knowledge.</param>
/// <param name="Name">What an English name of the knowledge is here.</param>
public sealed record Telling(string Tag, Func<Fact, string> Say, Func<string, string> Name);

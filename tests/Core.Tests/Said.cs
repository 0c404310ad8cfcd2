using Shouldly;
using VividSleuth.Words;

namespace VividSleuth.Core.Tests;

/// <summary>Assertions on what a fact says, in the sentences that ship.</summary>
internal static class Said
{
    public static string Say(this Fact? fact) => Sentences.English.Say(fact);

    public static bool Contains(this Fact fact, string words) => fact.Say().Contains(words, StringComparison.Ordinal);

    public static bool StartsWith(this Fact fact, string words) => fact.Say().StartsWith(words, StringComparison.Ordinal);

    public static void ShouldBe(this Fact? fact, string words) => fact.Say().ShouldBe(words);

    public static void ShouldContain(this Fact? fact, string words) => fact.Say().ShouldContain(words);

    public static void ShouldNotContain(this Fact? fact, string words) => fact.Say().ShouldNotContain(words);

    public static void ShouldStartWith(this Fact? fact, string words) => fact.Say().ShouldStartWith(words);

    public static void ShouldEndWith(this Fact? fact, string words) => fact.Say().ShouldEndWith(words);

    public static void ShouldBeEmpty(this Fact? fact) => fact.Say().ShouldBeEmpty();

    public static void ShouldNotBeEmpty(this Fact? fact) => fact.Say().ShouldNotBeEmpty();
}

using System.Linq.Expressions;

namespace Shouldly;

public static class AllOfSome
{
    /// <summary>All of them, and at least one: of nothing everything is true.</summary>
    public static void ShouldAllOfSomeBe<T>(this IEnumerable<T> actual, Expression<Func<T, bool>> so, string? said = null)
    {
        var all = actual.ToArray();
        all.ShouldNotBeEmpty(said);
        all.ShouldAllBe(so, said);
    }
}

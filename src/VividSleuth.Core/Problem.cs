namespace VividSleuth.Core;

/// <summary>Something the program cannot accept, told so that the person can put it right.</summary>
/// <param name="Field">The field in question, as the case file names it; empty when it is the whole.</param>
/// <param name="Text">What is wrong.</param>
/// <param name="Remedy">What to do about it.</param>
public sealed record Problem(string Field, Fact Text, Fact Remedy)
{
    /// <summary>A problem whose remedy has the code of what is wrong with “.do” behind it.</summary>
    public static Problem Of(string field, string code, params IReadOnlyList<(string Name, object? Value)> with) =>
        new(field, Fact.Of(code, with), Fact.Of($"{code}.do", with));

    public override string ToString() => $"{Field}: {Text}";
}

/// <summary>Thrown where a rule is broken and no result would be true; carries what to tell the person.</summary>
public sealed class ProblemException(IReadOnlyList<Problem> problems) : Exception(string.Join("; ", problems))
{
    public ProblemException(Problem problem)
        : this([problem]) { }

    public IReadOnlyList<Problem> Problems { get; } = problems;
}

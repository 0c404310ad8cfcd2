namespace VividSleuth.Core;

/// <summary>Something the program cannot accept, told so that the person can put it right.</summary>
/// <param name="Field">The field in question, as the case file names it; empty when it is the whole.</param>
/// <param name="Text">What is wrong.</param>
/// <param name="Remedy">What to do about it.</param>
public sealed record Problem(string Field, string Text, string Remedy)
{
    public override string ToString() => $"{Text} {Remedy}";
}

/// <summary>Thrown where a rule is broken and no result would be true; carries what to tell the person.</summary>
public sealed class ProblemException(IReadOnlyList<Problem> problems) : Exception(string.Join(' ', problems.Select(p => p.ToString())))
{
    public ProblemException(Problem problem)
        : this([problem]) { }

    public IReadOnlyList<Problem> Problems { get; } = problems;
}

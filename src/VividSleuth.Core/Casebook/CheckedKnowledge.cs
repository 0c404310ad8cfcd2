using VividSleuth.Core.Build;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Casebook;

/// <summary>Knowledge read with the lint of every room; what ships is held to the same by the tests.</summary>
public static class CheckedKnowledge
{
    public static IReadOnlyList<KnowledgeLint> Lints { get; } =
    [StripLint.Check, LookLint.Check, GaugeLint.Check, TraceLint.Check, VerdictLint.Check, BuildLint.Check];

    /// <param name="files">Name and text of each file; the folder in the name says what it holds.</param>
    /// <exception cref="ProblemException">A file cannot be read or does not lint; each problem names file and line.</exception>
    public static KnowledgeBase Load(IEnumerable<(string Name, string Text)> files) => KnowledgeBase.Load(files, Lints);

    /// <summary>Reads the files of a folder laid out as knowledge/.</summary>
    /// <exception cref="ProblemException">As the other.</exception>
    public static KnowledgeBase Load(string folder, IEnumerable<string> paths, Func<string, string> read) =>
        Load(KnowledgeBase.FilesOf(folder, paths, read));
}

namespace VividSleuth.Core.Knowledge;

/// <summary>A shop's own strip scripts as a file, laid out as those in knowledge/strip: to review, and to hand to another shop.</summary>
public static class ScriptFile
{
    /// <exception cref="ProblemException">The text is no list of scripts; the problem names the line.</exception>
    public static IReadOnlyList<StripScript> Read(string name, string text) => CauseFile.ReadList<StripScript>(KnowledgeReader.Reading(), name, text);

    public static string Write(IEnumerable<StripScript> scripts) => YamlOut.Write(scripts);
}

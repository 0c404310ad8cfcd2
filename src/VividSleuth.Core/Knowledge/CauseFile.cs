using VividSleuth.Core.Gauge;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;

namespace VividSleuth.Core.Knowledge;

/// <summary>A shop's own causes as a file, laid out as those in knowledge/causes: to review, to pass on, and for the command line.</summary>
public static class CauseFile
{
    /// <exception cref="ProblemException">The text is no list of causes; the problem names the line.</exception>
    public static IReadOnlyList<KnownCause> Read(string name, string text) => ReadList<KnownCause>(Reading(), name, text);

    /// <summary>Reads a list of entries.</summary>
    /// <exception cref="ProblemException">The text is no such list; the problem names the line.</exception>
    internal static IReadOnlyList<T> ReadList<T>(DeserializerBuilder reading, string name, string text)
    {
        try
        {
            return reading.Build().Deserialize<List<T>>(text) ?? [];
        }
        catch (YamlException e)
        {
            throw NotRead(name, e);
        }
    }

    /// <summary>Says in which line of a file it stopped, and at what.</summary>
    internal static ProblemException NotRead(string name, YamlException e) =>
        new(
            Problem.Of(
                $"{name}:{e.Start.Line}",
                "knowledge.line-cannot-read",
                ("line", e.Start.Line),
                ("why", e.InnerException?.Message ?? e.Message)
            )
        );

    public static string Write(IEnumerable<KnownCause> causes) =>
        new SerializerBuilder()
            .WithNamingConvention(CamelCaseNamingConvention.Instance)
            .WithEnumNamingConvention(HyphenatedNamingConvention.Instance)
            .ConfigureDefaultValuesHandling(DefaultValuesHandling.OmitEmptyCollections | DefaultValuesHandling.OmitNull)
            .DisableAliases()
            .Build()
            .Serialize(causes.ToList());

    internal static DeserializerBuilder Reading() =>
        new DeserializerBuilder()
            .WithNamingConvention(CamelCaseNamingConvention.Instance)
            .WithEnumNamingConvention(HyphenatedNamingConvention.Instance)
            .WithDuplicateKeyChecking();
}

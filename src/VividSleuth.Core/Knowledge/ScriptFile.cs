using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;
using YamlDotNet.Serialization.ObjectGraphVisitors;

namespace VividSleuth.Core.Knowledge;

/// <summary>A shop's own strip scripts as a file, laid out as those in knowledge/strip: to review, and to hand to another shop.</summary>
public static class ScriptFile
{
    /// <exception cref="ProblemException">The text is no list of scripts; the problem names the line.</exception>
    public static IReadOnlyList<StripScript> Read(string name, string text) => CauseFile.ReadList<StripScript>(KnowledgeReader.Reading(), name, text);

    public static string Write(IEnumerable<StripScript> scripts) =>
        new SerializerBuilder()
            .WithNamingConvention(CamelCaseNamingConvention.Instance)
            .WithEnumNamingConvention(HyphenatedNamingConvention.Instance)
            .ConfigureDefaultValuesHandling(
                DefaultValuesHandling.OmitEmptyCollections | DefaultValuesHandling.OmitNull | DefaultValuesHandling.OmitDefaults
            )
            .WithEmissionPhaseObjectGraphVisitor(args => new WithoutEmpty(args.InnerVisitor))
            .DisableAliases()
            .Build()
            .Serialize(scripts.ToList());

    /// <summary>Leaves out what says nothing: empty texts, and an applicability that fits any engine.</summary>
    private sealed class WithoutEmpty(IObjectGraphVisitor<IEmitter> next) : ChainedObjectGraphVisitor(next)
    {
        public override bool EnterMapping(IPropertyDescriptor key, IObjectDescriptor value, IEmitter context, ObjectSerializer serializer) =>
            value.Value is not ("" or Applicability { IsAny: true }) && base.EnterMapping(key, value, context, serializer);
    }
}

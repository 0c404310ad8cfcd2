using YamlDotNet.Serialization;

namespace VividSleuth.Core.Knowledge;

/// <summary>What every entry of the knowledge base carries.</summary>
public abstract class Known
{
    [YamlMember(Order = -3)]
    public string Id { get; set; } = "";

    [YamlMember(Order = -2)]
    public string Name { get; set; } = "";

    /// <summary>Where it comes from: a standard's heading, a published source, or “common practice, no source”.</summary>
    [YamlMember(Order = -1)]
    public string Provenance { get; set; } = "";
}

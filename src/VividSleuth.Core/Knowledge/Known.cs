using System.Text.Json.Serialization;

namespace VividSleuth.Core.Knowledge;

/// <summary>What every entry of the knowledge base carries.</summary>
public abstract class Known
{
    public string Id { get; set; } = "";

    public string Name { get; set; } = "";

    /// <summary>Where it comes from: a standard's heading, a published source, or “common practice, no source”.</summary>
    public string Provenance { get; set; } = "";
}

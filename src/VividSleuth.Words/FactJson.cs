using System.Text.Json;
using System.Text.Json.Serialization;
using VividSleuth.Core;

namespace VividSleuth.Words;

/// <summary>Writes a fact as its sentence. Facts are answers: none is ever read.</summary>
/// <param name="now">The sentences of whoever is answered.</param>
public sealed class FactJson(Func<Sentences> now) : JsonConverter<Fact>
{
    public override Fact Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        throw new JsonException("A sentence is worked out, never taken.");

    public override void Write(Utf8JsonWriter writer, Fact value, JsonSerializerOptions options) => writer.WriteStringValue(now().Say(value));
}

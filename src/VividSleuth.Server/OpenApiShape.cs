using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using VividSleuth.Core;

namespace VividSleuth.Server;

/// <summary>Shapes the OpenAPI document so that the client's types say what is always there.</summary>
public static class OpenApiShape
{
    public static void Configure(OpenApiOptions options)
    {
        options.CreateSchemaReferenceId = type => type.Type == typeof(Fact) ? null : OpenApiOptions.CreateDefaultSchemaReferenceId(type);
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info = new OpenApiInfo
                {
                    Title = "Vivid Sleuth",
                    Version = "1",
                    Description = "Teardown of one engine: nine stages of a case.",
                };
                document.Servers = [new OpenApiServer { Url = "/" }];
                // Whether a value may be missing is said where it is used, not in the list of what it may be.
                foreach (var list in document.Components?.Schemas?.Values.OfType<OpenApiSchema>().Select(s => s.Enum).OfType<IList<JsonNode>>() ?? [])
                {
                    for (var i = list.Count - 1; i >= 0; i--)
                    {
                        if (list[i] is null || list[i].GetValueKind() == JsonValueKind.Null)
                        {
                            list.RemoveAt(i);
                        }
                    }
                }

                return Task.CompletedTask;
            }
        );
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                // A fact is told as its sentence.
                if (context.JsonTypeInfo.Type == typeof(Fact))
                {
                    schema.Type = context.JsonPropertyInfo is { IsGetNullable: true }
                        ? JsonSchemaType.String | JsonSchemaType.Null
                        : JsonSchemaType.String;
                }
                else if (context.JsonTypeInfo.ElementType == typeof(Fact))
                {
                    schema.Items = new OpenApiSchema { Type = JsonSchemaType.String };
                }

                // Every field is written, null or not, so every field is required.
                if (schema.Properties is { Count: > 0 } properties)
                {
                    schema.Required = new HashSet<string>(properties.Keys, StringComparer.Ordinal);
                }

                return Task.CompletedTask;
            }
        );
    }
}

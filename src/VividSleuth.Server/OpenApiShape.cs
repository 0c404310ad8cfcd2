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
                    Description = "Teardown of one engine: eight stages of a case.",
                };
                document.Servers = [new OpenApiServer { Url = "/" }];
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

using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace VividSleuth.Server;

/// <summary>Shapes the OpenAPI document so that the client's types say what is always there.</summary>
public static class OpenApiShape
{
    public static void Configure(OpenApiOptions options)
    {
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
            (schema, _, _) =>
            {
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

using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Mordel.Web.Api;

/// <summary>What the OpenAPI document says beside the endpoints themselves.</summary>
public static class ApiDocument
{
    /// <summary>Configures the document: only the API's own paths, and how a program shows its key.</summary>
    public static void Configure(OpenApiOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        options.ShouldInclude = d => d.RelativePath?.StartsWith("api/", StringComparison.Ordinal) == true;
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info = new()
                {
                    Title = "Mordel",
                    Version = "1",
                    Description =
                        "Runs, entries, verdicts, procedures and profiles, in the shapes of the open formats. A "
                        + "program shows a key that a person has issued: Authorization: Bearer mordel_…",
                };
                document.Components ??= new();
                document.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme>
                {
                    ["key"] = new OpenApiSecurityScheme
                    {
                        Type = SecuritySchemeType.Http,
                        Scheme = "bearer",
                        Description = "A key issued under \"For programs\".",
                    },
                };
                return Task.CompletedTask;
            }
        );
    }
}

using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Gradus.Server.Hosting;

/// <summary>The OpenAPI document as clients read it.</summary>
public static class ApiDocument
{
    /// <summary>A chance is written as its number.</summary>
    public static Task TellChances(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        if (context.JsonTypeInfo.Type == typeof(Core.Measure.Chance))
        {
            (schema.Type, schema.Format, schema.Minimum, schema.Maximum) = (JsonSchemaType.Number, "double", "0", "1");
        }

        return Task.CompletedTask;
    }

    /// <summary>
    /// Names the document, and takes null out of the shared enumerations: the generator puts it in as soon as one field that uses them may be
    /// null, though that field says so itself.
    /// </summary>
    public static Task Tidy(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        document.Info = new OpenApiInfo { Title = "Gradus", Version = "v1" };
        document.Servers?.Clear();
        foreach (var schema in (document.Components?.Schemas?.Values ?? []).OfType<OpenApiSchema>().Where(one => one.Enum is { Count: > 0 }))
        {
            schema.Enum = [.. schema.Enum!.Where(value => value is not null && value.GetValueKind() == System.Text.Json.JsonValueKind.String)];
            schema.Type = JsonSchemaType.String;
        }

        return Task.CompletedTask;
    }
}

using System.Reflection;
using System.Text.Json.Nodes;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.OpenApi;

namespace Cursus.Web.Reports.Questions;

/// <summary>The part of a query string that asks for clicks, by which the API's document describes it; <see cref="QuestionReader"/> reads the
/// whole.</summary>
internal sealed record AskedQuestion(string? By) : IEndpointParameterMetadataProvider
{
    private static readonly (string Name, string Description)[] Named =
    [
        ("per", "`post` for clicks per post published in the period; all clicks if omitted."),
        ("period", $"{string.Join(", ", NamedPeriod.Names)}; instead of two days."),
        ("from", "First day; if omitted, 28 days before the last."),
        ("to", "Last day; today if omitted."),
        ("compare", "`previous`, the period before, `year`, the same days of last year, or `none`."),
    ];

    /// <summary>Reads the request.</summary>
    public static ValueTask<AskedQuestion?> BindAsync(HttpContext context) => new(new AskedQuestion((string?)context.Request.Query["by"]));

    /// <summary>Marks an endpoint as one that is asked questions.</summary>
    public static void PopulateMetadata(ParameterInfo parameter, EndpointBuilder builder) => builder.Metadata.Add(new Mark());

    /// <summary>Describes what an endpoint can be asked, if it is one of those.</summary>
    public static void Describe(OpenApiOperation operation, IEnumerable<object> metadata)
    {
        if (!metadata.OfType<Mark>().Any())
        {
            return;
        }

        List<IOpenApiParameter> asked =
        [
            Of("by", "What clicks are grouped by.", OneOf(Dimensions.InOrder.Select(d => d.Name))),
            .. Named.Select(n => Of(n.Name, n.Description, new() { Type = JsonSchemaType.String })),
            .. Dimensions.Filters.Select(f =>
                Of(
                    f,
                    $"Only clicks with one of these, by {Dimensions.All[f].Words}; empty for none.",
                    new()
                    {
                        Type = JsonSchemaType.Array,
                        Items = new OpenApiSchema { Type = JsonSchemaType.String },
                    }
                )
            ),
        ];
        operation.Parameters = [.. asked, .. operation.Parameters ?? []];
    }

    /// <summary>All that clicks can be grouped by, for programs that let people choose.</summary>
    public static JsonArray DescribeDimensions() =>
        [
            .. Dimensions.InOrder.Select(d => new JsonObject
            {
                ["name"] = d.Name,
                ["words"] = d.Words,
                ["isChosen"] = d.IsChosen,
                ["isFilter"] = d.IsFilter,
                ["isOfLink"] = d.IsOfLink,
                ["hasPosts"] = d.HasPosts,
                ["isOfPages"] = d.IsOfPages,
                ["next"] = d.Next,
            }),
        ];

    private static OpenApiSchema OneOf(IEnumerable<string> values) =>
        new() { Type = JsonSchemaType.String, Enum = [.. values.Select(v => (JsonNode)v)] };

    private static OpenApiParameter Of(string name, string description, OpenApiSchema schema) =>
        new()
        {
            Name = name,
            In = ParameterLocation.Query,
            Description = description,
            Schema = schema,
        };

    private sealed record Mark;
}

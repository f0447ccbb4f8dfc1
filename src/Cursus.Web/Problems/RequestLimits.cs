using System.ComponentModel.DataAnnotations;
using System.Reflection;
using Microsoft.OpenApi;

namespace Cursus.Web.Problems;

/// <summary>How long texts and lists in requests may be: what a property says itself by <see cref="MaxLengthAttribute"/>, else the usual. Both the
/// check of requests and the API's document go by it.</summary>
internal static class RequestLimits
{
    /// <summary>Characters of a text that has no limit of its own; a destination, the longest of all, has some room in it.</summary>
    public const int Text = 10_000;

    /// <summary>Entries of a list that has no limit of its own.</summary>
    public const int Items = 1000;

    public static int Of(ICustomAttributeProvider? property, bool isText) =>
        property?.GetCustomAttributes(typeof(MaxLengthAttribute), inherit: true).OfType<MaxLengthAttribute>().FirstOrDefault()?.Length
        ?? (isText ? Text : Items);

    /// <summary>Writes the limits into what the document says of requests; those of properties with limits of their own stand there
    /// already.</summary>
    public static void Describe(OpenApiDocument api)
    {
        var seen = new HashSet<IOpenApiSchema>();
        foreach (
            var body in api
                .Paths.Values.SelectMany(p => p.Operations?.Values.AsEnumerable() ?? [])
                .SelectMany(o => o.RequestBody?.Content?.Values.AsEnumerable() ?? [])
        )
        {
            Describe(body.Schema, seen);
        }
    }

    private static void Describe(IOpenApiSchema? schema, HashSet<IOpenApiSchema> seen)
    {
        var target = schema is OpenApiSchemaReference reference ? reference.RecursiveTarget : schema as OpenApiSchema;
        if (target is null || !seen.Add(target))
        {
            return;
        }

        var type = target.Type.GetValueOrDefault() & ~JsonSchemaType.Null;
        if (type == JsonSchemaType.String && target.Format is null && target.Enum is null or { Count: 0 })
        {
            target.MaxLength ??= Text;
        }

        if (type == JsonSchemaType.Array)
        {
            target.MaxItems ??= Items;
        }

        if (target.AdditionalProperties is not null)
        {
            target.MaxProperties ??= Items;
        }

        foreach (
            var inner in (target.Properties?.Values.AsEnumerable() ?? [])
                .Concat(target.OneOf ?? [])
                .Append(target.Items)
                .Append(target.AdditionalProperties)
        )
        {
            Describe(inner, seen);
        }
    }
}

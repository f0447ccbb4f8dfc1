using Microsoft.OpenApi;

namespace Cursus.Web.Composition;

/// <summary>The sections of the API's reference: operations stand together as their paths do.</summary>
internal static class ReferenceSections
{
    public static void Describe(OpenApiDocument api)
    {
        ArgumentNullException.ThrowIfNull(api);
        api.Tags = api.Paths.Keys.Select(NameOf).Distinct().Select(name => new OpenApiTag { Name = name }).ToHashSet();
        foreach (var (path, item) in api.Paths)
        {
            foreach (var operation in item.Operations?.Values.AsEnumerable() ?? [])
            {
                operation.Tags = new HashSet<OpenApiTagReference> { new(NameOf(path), api) };
            }
        }
    }

    /// <summary>“Link checks” for <c>/api/v1/link-checks/{id}</c>.</summary>
    private static string NameOf(string path)
    {
        var words = path.Split('/', StringSplitOptions.RemoveEmptyEntries)[2].Replace('-', ' ');
        return char.ToUpperInvariant(words[0]) + words[1..];
    }
}

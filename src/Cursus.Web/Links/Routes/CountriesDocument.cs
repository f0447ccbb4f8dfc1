using System.Text.Json.Nodes;
using Cursus.Core.Clicks;

namespace Cursus.Web.Links.Routes;

/// <summary>The countries in the API's document, from which the browser's choices are made.</summary>
internal static class CountriesDocument
{
    public static JsonArray Describe() =>
        [
            .. CountryNames
                .Codes.Select(code => (Code: code, Name: CountryNames.Of(code)))
                .OrderBy(c => c.Name, StringComparer.Ordinal)
                .Append((Code: RouteReading.UnknownCountry, Name: "Unknown"))
                .Select(c => new JsonObject { ["value"] = c.Code, ["label"] = c.Name }),
        ];
}

using System.Text.Json.Nodes;
using Cursus.Core.Batches;
using Cursus.Core.Links;
using Cursus.Web.Hosting;

namespace Cursus.Web.Links;

/// <summary>The options of a link in the API's document, from which the browser's forms are made.</summary>
internal static class LinkOptionsDocument
{
    public static JsonArray Describe() =>
        [
            .. LinkOptionFields.All.Select(o => new JsonObject
            {
                ["key"] = o.Key,
                ["field"] = ApiNames.Of(o.Field),
                ["column"] = ApiNames.Of(ColumnNames.ColumnOf(o)),
                ["label"] = o.Label,
                ["name"] = o.Name,
                ["kind"] = ApiNames.Of(o.Kind),
                ["section"] = ApiNames.Of(o.Section),
                ["choices"] = new JsonArray([.. o.Choices.Select(c => new JsonObject { ["value"] = c.Value, ["label"] = c.Label })]),
                ["max"] = o.Max,
                ["usual"] = o.Usual,
                ["placeholder"] = o.Placeholder,
                ["description"] = o.Description,
            }),
        ];
}

using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Npgsql;

namespace Cursus.Data.Archives;

/// <summary>The layout of an archive as a JSON Schema (draft 2020-12): one definition for the lines of each file.</summary>
public static partial class ArchiveSchema
{
    private static readonly JsonSerializerOptions Written = new() { WriteIndented = true, NewLine = "\n" };

    /// <summary>The schema, from the columns that the database has.</summary>
    public static async Task<string> Of(NpgsqlConnection connection, CancellationToken cancel)
    {
        var columns = await ArchiveColumns.Of(connection, cancel);
        var files = new JsonObject();
        foreach (var table in ArchiveTable.All)
        {
            var chosen = table.Select is { } select ? Chosen(select) : null;
            var properties = new JsonObject();
            foreach (var column in columns[table.Name].Where(c => chosen?.Contains(c.Name) != false))
            {
                properties[column.Name] = TypeOf(column);
            }

            if (table.Name == "members")
            {
                (properties["name"], properties["email"]) = (new JsonObject { ["type"] = "string" }, new JsonObject { ["type"] = "string" });
            }

            files[table.File] = new JsonObject
            {
                ["type"] = "object",
                ["properties"] = properties,
                ["required"] = new JsonArray([.. properties.Select(p => (JsonNode)p.Key)]),
                ["additionalProperties"] = false,
            };
        }

        return new JsonObject
            {
                ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
                ["title"] = "Archive of a Cursus workspace, layout 1: what each line of each file is",
                ["$defs"] = files,
            }.ToJsonString(Written) + "\n";
    }

    private static HashSet<string> Chosen(string select) => [.. OwnColumn().Matches(select).Select(m => m.Groups[1].Value)];

    [GeneratedRegex(@"(?:\A|, )x\.(\w+)")]
    private static partial Regex OwnColumn();

    private static JsonObject TypeOf(ArchiveColumns.Column column)
    {
        if (column.Type == "jsonb")
        {
            // Objects, lists and single values, as the feature keeps them.
            return [];
        }

        var (type, format) = column.Type switch
        {
            "uuid" => ("string", "uuid"),
            "timestamp with time zone" => ("string", "date-time"),
            "date" => ("string", "date"),
            "boolean" => ("boolean", null),
            "smallint" or "integer" or "bigint" => ("integer", null),
            "double precision" => ("number", null),
            _ when column.Type.EndsWith("[]", StringComparison.Ordinal) => ("array", null),
            _ => ("string", null as string),
        };
        var told = new JsonObject { ["type"] = column.IsNullable ? new JsonArray(type, "null") : type };
        if (format is not null)
        {
            told["format"] = format;
        }

        return told;
    }
}

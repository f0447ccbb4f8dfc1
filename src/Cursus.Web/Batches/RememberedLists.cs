using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Web.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>
/// Remembers what the columns of a list say, and what was chosen where it can't say it itself, so that the next list with the same columns is
/// understood at once. What holds for all lines is asked anew each time: next week's list belongs to another campaign.
/// </summary>
internal static class RememberedLists
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    };

    /// <param name="Columns">What each column says, in the list's order.</param>
    public sealed record Meaning(IReadOnlyList<ListField?> Columns, ListChoices Choices);

    /// <summary>What was chosen for the last list with the same columns; null if there was none.</summary>
    public static async Task<Meaning?> Find(ListTable table, Guid workspaceId, CursusDb db, CancellationToken cancel)
    {
        var key = KeyOf(table);
        return
            await db.ListMappings.Where(m => m.WorkspaceId == workspaceId && m.ColumnsKey == key).Select(m => m.Choices).FirstOrDefaultAsync(cancel)
                is { } text
            ? JsonSerializer.Deserialize<Meaning>(text, Json)
            : null;
    }

    /// <summary>Keeps what was chosen. A list without names for its columns is like no other, so nothing is kept of it.</summary>
    public static async Task Keep(ListTable table, BatchRequest request, CurrentMember member, CursusDb db, Instant now, CancellationToken cancel)
    {
        if (!table.HasNames)
        {
            return;
        }

        var key = KeyOf(table);
        var meaning = JsonSerializer.Serialize(new Meaning(request.Columns ?? table.Fields, request.Choices ?? new()), Json);
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into list_mappings (workspace_id, columns_key, choices, used_at) values ({member.WorkspaceId}, {key}, {meaning}::jsonb, {now})
            on conflict (workspace_id, columns_key) do update set choices = excluded.choices, used_at = excluded.used_at
            """,
            cancel
        );
    }

    private static string KeyOf(ListTable table) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\n', table.Columns))));
}

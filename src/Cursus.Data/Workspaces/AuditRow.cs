using Npgsql;

namespace Cursus.Data.Workspaces;

/// <summary>Writes an entry of the audit log where a change is made past EF Core.</summary>
internal static class AuditRow
{
    /// <summary>Adds the entry within whatever transaction the connection is in; nothing where nobody is to be told of.</summary>
    public static async Task Write(NpgsqlConnection connection, AuditEntry? entry, CancellationToken cancel)
    {
        if (entry is null)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            insert into audit_entries (id, workspace_id, at, action, account_id, who, token, kind, thing, name, detail)
            values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = entry.Id },
                new() { Value = entry.WorkspaceId },
                new() { Value = entry.At },
                new() { Value = (short)entry.Action },
                new() { Value = (object?)entry.AccountId ?? DBNull.Value },
                new() { Value = entry.Who },
                new() { Value = (object?)entry.Token ?? DBNull.Value },
                new() { Value = entry.Kind },
                new() { Value = (object?)entry.Thing ?? DBNull.Value },
                new() { Value = (object?)entry.Name ?? DBNull.Value },
                new() { Value = (object?)entry.Detail ?? DBNull.Value },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }
}

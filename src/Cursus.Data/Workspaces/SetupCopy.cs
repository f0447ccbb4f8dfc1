using Cursus.Data.Archives;
using Npgsql;

namespace Cursus.Data.Workspaces;

/// <summary>Copies how a workspace is set up into a new one: what its posts are made of and how things look, but no links, clicks, members, pixels or
/// short domains.</summary>
public static class SetupCopy
{
    /// <summary>What is copied, each after what it refers to, with the column that refers.</summary>
    private static readonly (string Table, string? Refers, string? To)[] Tables =
    [
        ("channels", null, null),
        ("tags", null, null),
        ("folders", null, null),
        ("agreed_values", null, null),
        ("recipes", null, null),
        ("referrer_rules", "channel_id", "channels"),
        ("code_logos", null, null),
        ("code_styles", "logo_id", "code_logos"),
        ("saved_filters", null, null),
    ];

    /// <summary>Tables with one row for a workspace, which is its key.</summary>
    private static readonly string[] Single = ["handoff_settings", "link_check_settings"];

    /// <summary>Settings in the workspace's own row.</summary>
    private static readonly string[] Left =
    [
        "id",
        "name",
        "public_name",
        "key",
        "time_zone",
        "is_demo",
        "created_at",
        "clicks_kept_from",
        "digest_told_for",
        "archived_at",
        "delete_at",
    ];

    /// <summary>Copies everything, within whatever transaction the connection is in.</summary>
    public static async Task Run(NpgsqlConnection connection, Guid from, Guid into, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(connection);
        var columns = await ArchiveColumns.Of(connection, cancel);
        var ids = new Dictionary<string, (Guid[] Old, Guid[] New)>();
        foreach (var (table, refers, to) in Tables)
        {
            var old = await Ids(connection, table, from, cancel);
            ids[table] = (old, [.. old.Select(_ => Guid.CreateVersion7())]);
            var names = columns[table].Select(c => c.Name).ToList();
            var values = names.Select(n =>
                n switch
                {
                    "id" => "m.fresh",
                    "workspace_id" => "$3",
                    _ when n == refers => "r.fresh",
                    _ => $"x.{n}",
                }
            );
            var (oldRefers, newRefers) = to is null ? ([], []) : ids[to];
            await Execute(
                connection,
                $"""
                insert into {table} ({string.Join(", ", names)}) select {string.Join(", ", values)}
                from {table} x join unnest($1, $2) m(old, fresh) on m.old = x.id
                    left join unnest($4, $5) r(old, fresh) on r.old = {(refers is null ? "null::uuid" : $"x.{refers}")}
                """,
                cancel,
                ids[table].Old,
                ids[table].New,
                into,
                oldRefers,
                newRefers
            );
        }

        foreach (var table in Single)
        {
            var names = columns[table].Select(c => c.Name).ToList();
            await Execute(
                connection,
                $"""
                insert into {table} ({string.Join(", ", names)}) select {string.Join(", ", names.Select(n => n == "workspace_id" ? "$2" : n))}
                from {table} where workspace_id = $1 on conflict do nothing
                """,
                cancel,
                from,
                into
            );
        }

        var settings = columns["workspaces"].Select(c => c.Name).Except(Left).ToList();
        await Execute(
            connection,
            $"update workspaces w set {string.Join(", ", settings.Select(s => $"{s} = x.{s}"))} from workspaces x where x.id = $1 and w.id = $2",
            cancel,
            from,
            into
        );
    }

    private static async Task<Guid[]> Ids(NpgsqlConnection connection, string table, Guid workspace, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            $"select coalesce(array_agg(id order by id), '{{}}') from {table} where workspace_id = $1",
            connection
        );
        command.Parameters.Add(new() { Value = workspace });
        return (Guid[])(await command.ExecuteScalarAsync(cancel))!;
    }

    private static async Task Execute(NpgsqlConnection connection, string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (var value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }
}

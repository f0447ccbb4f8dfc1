using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Archives;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Sums;
using Cursus.Data.Workspaces;
using NodaTime;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data.Archives;

/// <summary>Brings an archive into a workspace that has no links yet, in one transaction. What was set up there is replaced.</summary>
public sealed class ArchiveImport(NpgsqlDataSource dataSource)
{
    private const int LinesAtOnce = 5000;

    /// <summary>What is put into a column instead of what the archive has.</summary>
    private static readonly Dictionary<(string Table, string Column), string> Instead = new()
    {
        // Whose domain it is has to be proved anew, by the same proof.
        [("domains", "verified_at")] = "null::timestamptz",
        [("domains", "next_check_at")] = "now()",
    };

    /// <param name="needsNoProof">Names of short domains that belong to whoever has them first.</param>
    /// <exception cref="ArchiveRefusedException">The workspace has links already, or the database refuses a line.</exception>
    public async Task Run(ArchiveFile archive, Guid into, Func<string, bool> needsNoProof, Instant now, AuditEntry? note, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        await connection.Run(
            "create temp table archive_lines (line json) on commit drop; create temp table archive_agents (old int, new int, reading int) on commit drop; create temp sequence archive_place",
            cancel
        );
        if (
            await Ask<bool>(
                connection,
                "select exists (select from links where workspace_id = $1) or exists (select from posts where workspace_id = $1)",
                into,
                cancel
            )
        )
        {
            throw new ArchiveRefusedException(
                new ValidationError("workspace-not-empty", "This workspace already has links. Import the archive into a workspace that has none.")
            );
        }

        foreach (var table in ArchiveTable.All.Reverse().Where(t => t.IsOwn))
        {
            await Run(connection, $"delete from {table.Name} where workspace_id = $1", cancel, into);
        }

        var columns = await ArchiveColumns.Of(connection, cancel);
        var ids = new ArchiveIds(
            archive.Manifest.WorkspaceId,
            into,
            archive.Ids,
            await Members(connection, archive, into, cancel),
            await AreAllNew(connection, archive, columns, cancel)
        );

        // Clicks are told apart by the journal they came by, so that these get one of their own.
        var journal = await Ask<int>(connection, "insert into journals (key, shipped_to) values ($1, 0) returning id", Guid.NewGuid(), cancel);
        try
        {
            foreach (var table in ArchiveTable.All.Where(t => t.IsImported))
            {
                await Put(connection, archive, table, ids, new Target(into, journal, columns), cancel);
            }

            await connection.Run("drop sequence archive_place", cancel);

            // Archives from before channels could be changed don't say them in versions: it was the present one all along.
            await Run(
                connection,
                "update link_versions v set state = v.state || jsonb_build_object('channelId', l.channel_id) from links l"
                    + " where l.id = v.link_id and l.workspace_id = $1 and not jsonb_exists(v.state, 'channelId')",
                cancel,
                into
            );

            // Archives from before workspaces had options of their own don't say which domains had some.
            await Run(
                connection,
                "update domains set has_own_options = true where workspace_id = $1 and (options_pass_query <> 0 or options_referrer <> 0 or options_hide_from_search or options_nofollow or options_sponsored"
                    + " or options_new_tab or coalesce(options_title_attribute, options_anchor_text) is not null or options_handoff_deadline is not null)",
                cancel,
                into
            );
            await VerifyDomains(connection, into, needsNoProof, cancel);
            await RollUps.Make(connection, into, now, cancel);
            await AuditRow.Write(connection, note, cancel);
            await transaction.CommitAsync(cancel);
        }
        catch (PostgresException e)
        {
            throw new ArchiveRefusedException(
                new ValidationError(
                    "archive-line",
                    $"The database rejected a line ({e.MessageText}). Nothing was imported. Export the archive again."
                )
            );
        }
    }

    private static async Task Put(
        NpgsqlConnection connection,
        ArchiveFile archive,
        ArchiveTable table,
        ArchiveIds ids,
        Target target,
        CancellationToken cancel
    )
    {
        if (table.Name == "checked_pages")
        {
            // Those that the links have brought along just now.
            await Run(connection, "delete from checked_pages where workspace_id = $1", cancel, target.Workspace);
        }

        string? insert = null;
        var portion = new List<string>(LinesAtOnce);
        async Task Send()
        {
            if (portion.Count == 0)
            {
                return;
            }

            insert ??= Insert(table, portion[0], target);
            await using (var copy = await connection.BeginBinaryImportAsync("copy archive_lines (line) from stdin (format binary)", cancel))
            {
                foreach (var line in portion)
                {
                    await copy.StartRowAsync(cancel);
                    await copy.WriteAsync(line, NpgsqlDbType.Json, cancel);
                }

                await copy.CompleteAsync(cancel);
            }

            portion.Clear();
            await connection.Run(insert, cancel);
            await connection.Run("truncate archive_lines", cancel);
        }

        await foreach (var line in archive.Lines(table, cancel))
        {
            portion.Add(ids.Place(line));
            if (portion.Count == LinesAtOnce)
            {
                await Send();
            }
        }

        await Send();
    }

    /// <summary>Where everything goes.</summary>
    /// <param name="Journal">Number under which the clicks are stored.</param>
    private sealed record Target(Guid Workspace, int Journal, ILookup<string, ArchiveColumns.Column> Columns);

    /// <summary>How the lines of a table are put into it.</summary>
    private static string Insert(ArchiveTable table, string firstLine, Target target)
    {
        var names = Names(firstLine);
        if (table.IsPlain && names.FirstOrDefault(n => !target.Columns[table.Name].Any(c => c.Name == n)) is { } unknown)
        {
            throw new ArchiveRefusedException(
                new ValidationError(
                    "archive-column",
                    $"{table.File} has “{unknown}”, which this version of Cursus doesn’t know. Update Cursus, then import it again."
                )
            );
        }

        string Listed(string prefix) =>
            string.Join(
                ", ",
                names.Select(n => prefix.Length > 0 && Instead.TryGetValue((table.Name, n), out var other) ? other : $"{prefix}\"{n}\"")
            );
        var months = string.Join(", ", RetentionRule.Months);
        var days = UserAgentRetention.TextsKept.TotalDays - 1;
        return table.Name switch
        {
            "workspaces" => $"""
                update workspaces w set {string.Concat(ArchiveTable.Settings.Intersect(names).Select(c => $"{c} = r.{c}, "))}
                    clicks_kept_months = case when r.clicks_kept_months in ({months}) then r.clicks_kept_months else 0 end,
                    clicks_kept_from = case when r.clicks_kept_from is not null then least(date_trunc('month', r.clicks_kept_from), date_trunc('month', now() at time zone 'UTC'))::date end
                from archive_lines a, json_populate_record(null::workspaces, a.line) r where w.id = '{target.Workspace}'
                """,
            "referrers" =>
                "insert into referrers select r.* from archive_lines a, json_populate_record(null::referrers, a.line) r on conflict (host) do nothing",
            "user_agents" => """
                insert into user_agents (text, hints, kind, device, browser, os, read_with, seen_on)
                select r.text, r.hints, r.kind, r.device, r.browser, r.os, r.read_with, (now() at time zone 'UTC')::date
                from archive_lines a, json_populate_record(null::user_agents, a.line) r where r.text is not null on conflict (text, hints) do update set seen_on = excluded.seen_on;
                insert into user_agents (hints, kind, device, browser, os, read_with)
                select distinct 0, r.kind, r.device, r.browser, r.os, r.read_with from archive_lines a, json_populate_record(null::user_agents, a.line) r on conflict do nothing;
                insert into archive_agents (old, new, reading)
                select r.id, coalesce(t.id, u.id), u.id from archive_lines a, json_populate_record(null::user_agents, a.line) r
                join user_agents u on u.text is null and (u.kind, u.device, u.browser, u.os, u.read_with) = (r.kind, r.device, r.browser, r.os, r.read_with)
                left join user_agents t on t.text = r.text and t.hints = r.hints
                """,
            // The others are counted anew from the clicks, since days that are over are kept otherwise than those that aren't.
            "link_days" => $"""
                insert into link_days ({Listed("")}) select {Listed("r.")} from archive_lines a, json_populate_record(null::link_days, a.line) r
                where r.day < (select clicks_kept_from from workspaces where id = '{target.Workspace}')
                """,
            "clicks" => $"""
                select ensure_clicks_partition(month) from (
                    select distinct date_trunc('month', (line ->> 'at')::timestamptz at time zone 'UTC') at time zone 'UTC' as month from archive_lines) months;
                insert into clicks (id, at, link_id, visitor, kind, language, referrer_host, user_agent_id, country, code, page, rule)
                select ({target.Journal}::bigint << {ClickStore.PositionBits}) | nextval('archive_place'), r.at, r.link_id, r.visitor, r.kind, r.language, r.referrer_host,
                    case when r.at < now() - interval '{days} days' then g.reading else g.new end, r.country, r.code, coalesce(r.page, 0), coalesce(r.rule, 0)
                from archive_lines a, json_populate_record(null::clicks, a.line) r join archive_agents g on g.old = r.user_agent_id
                """,
            _ =>
                $"insert into {table.Name} ({Listed("")}) select {Listed("r.")} from archive_lines a, json_populate_record(null::{table.Name}, a.line) r",
        };
    }

    private static List<string> Names(string line)
    {
        using var document = JsonDocument.Parse(line);
        return [.. document.RootElement.EnumerateObject().Select(p => p.Name)];
    }

    /// <summary>Who the old members are here: those with the same e-mail address.</summary>
    private static async Task<Dictionary<Guid, Guid?>> Members(NpgsqlConnection connection, ArchiveFile archive, Guid into, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            "select a.normalized_email, m.id from members m join accounts a on a.id = m.account_id where m.workspace_id = $1",
            connection
        )
        {
            Parameters = { new() { Value = into } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var here = new Dictionary<string, Guid>();
        while (await reader.ReadAsync(cancel))
        {
            here[reader.GetString(0)] = reader.GetGuid(1);
        }

        return archive.Members.ToDictionary(m => m.Key, m => here.TryGetValue(m.Value?.ToUpperInvariant() ?? "", out var id) ? id : (Guid?)null);
    }

    private static async Task<bool> AreAllNew(
        NpgsqlConnection connection,
        ArchiveFile archive,
        ILookup<string, ArchiveColumns.Column> columns,
        CancellationToken cancel
    )
    {
        var ids = archive.Ids.ToArray();
        foreach (var table in ArchiveTable.All.Where(t => t.IsPlain && columns[t.Name].Any(c => c.Name == "id")))
        {
            if (await Ask<bool>(connection, $"select exists (select from {table.Name} where id = any($1))", ids, cancel))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Names that need no proof are good at once where nobody else has them.</summary>
    private static async Task VerifyDomains(NpgsqlConnection connection, Guid into, Func<string, bool> needsNoProof, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select name from domains where workspace_id = $1", connection)
        {
            Parameters = { new() { Value = into } },
        };
        var names = new List<string>();
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                names.Add(reader.GetString(0));
            }
        }

        await Run(
            connection,
            """
            update domains d set verified_at = now(), next_check_at = null where workspace_id = $1 and name = any($2)
                and not exists (select from domains o where o.name = d.name and o.verified_at is not null)
            """,
            cancel,
            into,
            names.Where(needsNoProof).ToArray()
        );
    }

    private static async Task<T> Ask<T>(NpgsqlConnection connection, string sql, object value, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection) { Parameters = { new() { Value = value } } };
        return (T)(await command.ExecuteScalarAsync(cancel))!;
    }

    private static async Task Run(NpgsqlConnection connection, string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (var value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }
}

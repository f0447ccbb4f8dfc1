using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data.Clicks;

/// <summary>Hosts that visitors came from, each with what is known of it everywhere. For one batch at a time.</summary>
internal sealed class KnownReferrers
{
    private const int Remembered = 50_000;

    private readonly HashSet<string> referrers = [];

    /// <summary>Learns the referrers of a batch that are not known yet.</summary>
    public async Task Learn(NpgsqlConnection connection, IReadOnlyList<(long Id, Click Click)> clicks, CancellationToken cancel)
    {
        if (referrers.Count > Remembered)
        {
            referrers.Clear();
        }

        List<string> unknown = [.. clicks.Select(c => c.Click.ReferrerHost).Where(h => !referrers.Contains(h)).Distinct()];
        await Write(connection, unknown, "on conflict (host) do nothing", cancel);
        referrers.UnionWith(unknown);
    }

    /// <summary>Reads all referrers anew that were read by an earlier state of the lists. Returns how many there were.</summary>
    public static async Task<int> ReadAnew(NpgsqlConnection connection, CancellationToken cancel)
    {
        var hosts = new List<string>();
        await using (
            var select = new NpgsqlCommand("select host from referrers where read_with <> $1", connection)
            {
                Parameters = { new() { Value = ClickLists.State } },
            }
        )
        await using (var reader = await select.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                hosts.Add(reader.GetString(0));
            }
        }

        await Write(
            connection,
            hosts,
            "on conflict (host) do update set network = excluded.network, kind = excluded.kind, read_with = excluded.read_with",
            cancel
        );
        return hosts.Count;
    }

    private static async Task Write(NpgsqlConnection connection, List<string> hosts, string onConflict, CancellationToken cancel)
    {
        if (hosts.Count == 0)
        {
            return;
        }

        var sites = hosts.ConvertAll(ReferrerSite.Of);
        await using var command = new NpgsqlCommand(
            $"insert into referrers (host, network, kind, read_with) select *, $4 from unnest($1::text[], $2::text[], $3::smallint[]) {onConflict}",
            connection
        )
        {
            Parameters =
            {
                new() { Value = hosts },
                new() { Value = sites.ConvertAll(s => s.Network) },
                new() { Value = sites.ConvertAll(s => (short)s.Kind) },
                new() { Value = ClickLists.State, NpgsqlDbType = NpgsqlDbType.Text },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }
}

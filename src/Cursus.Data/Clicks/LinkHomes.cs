using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Where a link's clicks belong.</summary>
/// <param name="Zone">By whose clock its days are cut: the workspace's.</param>
internal sealed record LinkHome(Guid WorkspaceId, DateTimeZone Zone);

/// <summary>To which workspaces links belong. Asks the database once for each link. For one batch at a time.</summary>
internal sealed class LinkHomes
{
    private const int Remembered = 500_000;

    private readonly Dictionary<Guid, LinkHome> homes = [];

    /// <summary>The home of a link that was asked for before; null where there is no such link.</summary>
    public LinkHome? Of(Guid link) => homes.GetValueOrDefault(link);

    /// <summary>Forgets all, where workspaces may have changed their clocks.</summary>
    public void Forget() => homes.Clear();

    /// <summary>Asks for links that are not known yet.</summary>
    public async Task Learn(NpgsqlConnection connection, IEnumerable<Guid> links, CancellationToken cancel)
    {
        if (homes.Count > Remembered)
        {
            homes.Clear();
        }

        var unknown = links.Where(l => !homes.ContainsKey(l)).Distinct().ToArray();
        if (unknown.Length == 0)
        {
            return;
        }

        var workspaces = new Dictionary<Guid, LinkHome>();
        await using var command = new NpgsqlCommand(
            "select l.id, w.id, w.time_zone from links l join workspaces w on w.id = l.workspace_id where l.id = any($1)",
            connection
        )
        {
            Parameters = { new() { Value = unknown } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var workspace = reader.GetGuid(1);
            if (!workspaces.TryGetValue(workspace, out var home))
            {
                workspaces[workspace] = home = new LinkHome(workspace, DateTimeZoneProviders.Tzdb[reader.GetString(2)]);
            }

            homes[reader.GetGuid(0)] = home;
        }
    }
}

using System.Collections.Frozen;
using System.Text.Json;
using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using Cursus.Data.Retargeting;
using Cursus.Web.Retargeting;
using Npgsql;

namespace Cursus.Web.Edge;

/// <summary>Reads the pixels of all workspaces, where they are attached for many links at once, and how each workspace's handoff goes. All of it in one trip, whenever the
/// <see cref="LinkFeed"/> reads what was changed: there are few pixels, whatever the number of links.</summary>
public sealed class PixelFeed(PixelTable pixels)
{
    private const string Select = """
        select id, workspace_id, network, reference from pixels;
        select workspace_id, description::text from ad_networks;
        select w.id, w.name, s.consent, s.countries, s.questions::text, s.privacy_page, s.line, s.logo, s.paper, s.ink
            from workspaces w left join handoff_settings s on s.workspace_id = w.id where exists (select from pixels p where p.workspace_id = w.id);
        select campaign_id, pixel_id from campaign_pixels union all select channel_id, pixel_id from channel_pixels union all select domain_id, pixel_id from domain_pixels;
        """;

    /// <summary>Reads everything on the caller's connection and transaction.</summary>
    public async Task Read(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(Select, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var found = new List<(Guid Id, Guid Workspace, string Network, string Reference)>();
        while (await reader.ReadAsync(cancel))
        {
            found.Add((reader.GetGuid(0), reader.GetGuid(1), reader.GetString(2), reader.GetString(3)));
        }

        var networks = AdNetworkFile.Shipped.ToDictionary(n => (Guid.Empty, n.Key));
        await reader.NextResultAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var network = AdNetworkFile.Read(reader.GetString(1));
            networks[(reader.GetGuid(0), network.Key)] = network;
        }

        var manners = new Dictionary<Guid, HandoffManner>();
        await reader.NextResultAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            manners[reader.GetGuid(0)] = Manner(reader);
        }

        var attached = new List<(Guid Place, Guid Pixel)>();
        await reader.NextResultAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            attached.Add((reader.GetGuid(0), reader.GetGuid(1)));
        }

        var places = attached.ToLookup(a => a.Pixel, a => a.Place);
        pixels.Replace(found.GroupBy(p => p.Workspace).ToDictionary(workspace => workspace.Key, workspace =>
        {
            var entries = workspace.Select(p => (p.Id, Network: networks.GetValueOrDefault((p.Workspace, p.Network)) ?? networks.GetValueOrDefault((Guid.Empty, p.Network)), p.Reference))
                .Where(p => p.Network is not null)
                .Select(p => new PixelEntry(p.Id, pixels.NumberOf(p.Id), new HandoffPixel(p.Network!, p.Reference))).ToList();
            return new WorkspacePixels(
                manners[workspace.Key],
                entries.ToFrozenDictionary(e => e.Number),
                entries.SelectMany(e => places[e.Id].Select(place => (Place: pixels.NumberOf(place), Entry: e))).GroupBy(a => a.Place).ToFrozenDictionary(g => g.Key, g => g.Select(a => a.Entry).ToArray()));
        }));
    }

    /// <summary>A workspace without settings of its own has the defaults.</summary>
    private static HandoffManner Manner(NpgsqlDataReader reader)
    {
        var settings = reader.IsDBNull(2) ? new HandoffSettings() : new HandoffSettings
        {
            Consent = (ConsentMode)reader.GetInt16(2),
            Countries = reader.GetFieldValue<string[]>(3),
            Questions = reader.GetString(4),
            PrivacyPage = reader.IsDBNull(5) ? null : reader.GetString(5),
            Line = reader.IsDBNull(6) ? null : reader.GetString(6),
            Logo = reader.IsDBNull(7) ? null : reader.GetString(7),
            Paper = reader.GetString(8),
            Ink = reader.GetString(9),
        };
        return HandoffMannerOf(reader.GetString(1), settings);
    }

    /// <summary>The settings of a workspace as the edge goes by them.</summary>
    internal static HandoffManner HandoffMannerOf(string who, HandoffSettings settings) => new(
        who, settings.Consent, settings.Countries.Select(c => CountryCode.Of(c)).ToFrozenSet(),
        JsonSerializer.Deserialize<Dictionary<string, string>>(settings.Questions) ?? [], settings.PrivacyPage, new HandoffLook(settings.Line, settings.Logo, settings.Paper, settings.Ink));
}

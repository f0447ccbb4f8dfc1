using System.Collections.Frozen;
using System.Text.Json;
using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using Cursus.Data.Retargeting;
using Npgsql;

namespace Cursus.Edge.Handoff;

/// <summary>Reads the pixels of all workspaces, where they are attached for many links at once, and how each workspace's handoff goes. All of it in
/// one trip, whenever the
/// <see cref="LinkFeed"/> reads what was changed: there are few pixels, whatever the number of links.</summary>
public sealed class PixelFeed(PixelTable pixels)
{
    private const string Select = """
        select id, workspace_id, network, reference from pixels;
        select workspace_id, description::text from ad_networks;
        select w.id, coalesce(w.public_name, w.name), s.consent, s.countries, s.questions::text, s.privacy_page, s.line, s.logo, s.paper, s.ink
            from workspaces w left join handoff_settings s on s.workspace_id = w.id where exists (select from pixels p where p.workspace_id = w.id);
        select campaign_id, pixel_id from campaign_pixels union all select channel_id, pixel_id from channel_pixels union all select domain_id, pixel_id from domain_pixels;
        """;

    /// <summary>What was read last.</summary>
    internal PixelRows Rows { get; private set; } = PixelRows.None;

    /// <summary>Reads everything on the caller's connection and transaction.</summary>
    public async Task Read(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(Select, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        Take(
            new PixelRows(
                await All(r => new PixelRows.Pixel(r.GetGuid(0), r.GetGuid(1), r.GetString(2), r.GetString(3))),
                await All(r => new PixelRows.Network(r.GetGuid(0), r.GetString(1))),
                await All(r => new PixelRows.Asking(r.GetGuid(0), r.GetString(1), SettingsOf(r))),
                await All(r => new PixelRows.Attached(r.GetGuid(0), r.GetGuid(1)))
            )
        );

        async Task<List<T>> All<T>(Func<NpgsqlDataReader, T> read)
        {
            var rows = new List<T>();
            while (await reader.ReadAsync(cancel))
            {
                rows.Add(read(reader));
            }

            await reader.NextResultAsync(cancel);
            return rows;
        }
    }

    /// <summary>Goes by these rows from now on.</summary>
    internal void Take(PixelRows rows)
    {
        Rows = rows;
        var networks = AdNetworkFile.Shipped.ToDictionary(n => (Guid.Empty, n.Key));
        foreach (var (workspace, description) in rows.Networks)
        {
            var network = AdNetworkFile.Read(description);
            networks[(workspace, network.Key)] = network;
        }

        var settings = rows.Askings.ToDictionary(a => a.WorkspaceId, a => HandoffSettingsOf(a.Who, a.Settings ?? new HandoffSettings()));
        var places = rows.Attachments.ToLookup(a => a.PixelId, a => a.Place);
        pixels.Replace(
            rows.Pixels.GroupBy(p => p.WorkspaceId)
                .ToDictionary(
                    workspace => workspace.Key,
                    workspace =>
                    {
                        var entries = workspace
                            .Select(p =>
                                (
                                    p.Id,
                                    Network: networks.GetValueOrDefault((p.WorkspaceId, p.Network))
                                        ?? networks.GetValueOrDefault((Guid.Empty, p.Network)),
                                    p.Reference
                                )
                            )
                            .Where(p => p.Network is not null)
                            .Select(p => new PixelEntry(p.Id, pixels.NumberOf(p.Id), new HandoffPixel(p.Network!, p.Reference)))
                            .ToList();
                        return new WorkspacePixels(
                            settings[workspace.Key],
                            entries.ToFrozenDictionary(e => e.Number),
                            entries
                                .SelectMany(e => places[e.Id].Select(place => (Place: pixels.NumberOf(place), Entry: e)))
                                .GroupBy(a => a.Place)
                                .ToFrozenDictionary(g => g.Key, g => g.Select(a => a.Entry).ToArray())
                        );
                    }
                )
        );
    }

    /// <summary>A workspace without settings of its own has none.</summary>
    private static HandoffSettings? SettingsOf(NpgsqlDataReader reader) =>
        reader.IsDBNull(2)
            ? null
            : new HandoffSettings
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

    /// <summary>The settings of a workspace as the edge goes by them.</summary>
    internal static EdgeHandoffSettings HandoffSettingsOf(string who, HandoffSettings settings) =>
        new(
            who,
            settings.Consent,
            settings.Countries.Select(c => CountryCode.Of(c)).ToFrozenSet(),
            JsonSerializer.Deserialize<Dictionary<string, string>>(settings.Questions) ?? [],
            settings.PrivacyPage,
            new HandoffLook(settings.Line, settings.Logo, settings.Paper, settings.Ink)
        );
}

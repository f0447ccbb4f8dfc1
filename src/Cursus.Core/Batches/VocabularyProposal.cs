using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Batches;

/// <summary>The UTM values of one old link; null for what it doesn't have.</summary>
public sealed record OldTags(string? Source, string? Medium, string? Campaign, string? Term = null, string? Content = null)
{
    /// <summary>The value of a field; null for none.</summary>
    public string? this[TagField field] =>
        field switch
        {
            TagField.Source => Source,
            TagField.Medium => Medium,
            TagField.Campaign => Campaign,
            TagField.Term => Term,
            _ => Content,
        };
}

/// <summary>A channel that old links were made for.</summary>
/// <param name="Name">The network's name if the source is one, otherwise the source as people would write it; with the medium if its source has
/// several.</param>
/// <param name="Links">How many old links use its source and medium, in any spelling.</param>
/// <param name="IsKnown">Whether the workspace has a channel with this source and medium.</param>
public sealed record ProposedChannel(string Name, string Source, string Medium, int Links, bool IsKnown);

/// <summary>A campaign that old links were made for.</summary>
/// <param name="Name">Its value as people would write it.</param>
/// <param name="Value">Its <c>utm_campaign</c>.</param>
/// <param name="IsKnown">Whether the workspace has it.</param>
public sealed record ProposedCampaign(string Name, string Value, int Links, bool IsKnown);

/// <summary>A spelling of old links that was probably meant to be another.</summary>
/// <param name="Into">The agreed one of the two, otherwise the more common.</param>
/// <param name="Links">How many old links have <paramref name="From"/>.</param>
public sealed record ProposedMerge(TagField Field, string From, string Into, TagSlipKind Kind, int Links);

/// <summary>What a list of old links tells about how its owner tags: their channels and campaigns, and values spelt several ways. Most links
/// first.</summary>
public sealed record VocabularyProposal(
    IReadOnlyList<ProposedChannel> Channels,
    IReadOnlyList<ProposedCampaign> Campaigns,
    IReadOnlyList<ProposedMerge> Merges
)
{
    /// <summary>The most frequent values of a field that are looked at: each is compared with each, and so many are no vocabulary.</summary>
    private const int MaxValues = 300;

    /// <param name="links">The values of each old link.</param>
    /// <param name="agreed">The workspace's agreed values of a field.</param>
    /// <param name="channels">Source and medium of the channels that the workspace has.</param>
    public static VocabularyProposal Of(
        IReadOnlyCollection<OldTags> links,
        Func<TagField, IReadOnlyCollection<string>> agreed,
        IReadOnlySet<(string Source, string Medium)> channels
    )
    {
        ArgumentNullException.ThrowIfNull(links);
        ArgumentNullException.ThrowIfNull(agreed);
        ArgumentNullException.ThrowIfNull(channels);
        var merges = Enum.GetValues<TagField>().SelectMany(field => MergesOf(field, links, agreed(field))).ToList();
        var meant = merges.ToDictionary(m => (m.Field, m.From), m => m.Into);
        string Meant(TagField field, string value) => meant.GetValueOrDefault((field, value), value);

        var pairs = links
            .Where(l => l is { Source: not null, Medium: not null })
            .CountBy(l => (Source: Meant(TagField.Source, l.Source!), Medium: Meant(TagField.Medium, l.Medium!)))
            .ToList();
        var campaigns = links.Where(l => l.Campaign is not null).CountBy(l => Meant(TagField.Campaign, l.Campaign!));
        var mediums = pairs.CountBy(p => p.Key.Source).ToDictionary();
        return new(
            [
                .. pairs
                    .OrderByDescending(p => p.Value)
                    .ThenBy(p => p.Key.Source, StringComparer.Ordinal)
                    .ThenBy(p => p.Key.Medium, StringComparer.Ordinal)
                    .Take(MaxValues)
                    .Select(p => new ProposedChannel(
                        NameOf(p.Key.Source, p.Key.Medium, mediums[p.Key.Source] > 1),
                        p.Key.Source,
                        p.Key.Medium,
                        p.Value,
                        channels.Contains(p.Key)
                    )),
            ],
            [
                .. campaigns
                    .Select(c => new ProposedCampaign(Worded(c.Key), c.Key, c.Value, agreed(TagField.Campaign).Contains(c.Key)))
                    .OrderByDescending(c => c.Links)
                    .ThenBy(c => c.Value, StringComparer.Ordinal)
                    .Take(MaxValues),
            ],
            [.. merges.OrderByDescending(m => m.Links).ThenBy(m => m.From, StringComparer.Ordinal)]
        );
    }

    /// <summary>Each value that is a slip of one before it goes into that one; nothing goes into what goes into another itself.</summary>
    private static IEnumerable<ProposedMerge> MergesOf(TagField field, IReadOnlyCollection<OldTags> links, IReadOnlyCollection<string> agreed)
    {
        var kept = new List<string>(agreed.Order(StringComparer.Ordinal));
        var values = links
            .Select(l => l[field])
            .OfType<string>()
            .CountBy(v => v)
            .Where(v => !agreed.Contains(v.Key))
            .OrderByDescending(v => v.Value)
            .ThenBy(v => v.Key, StringComparer.Ordinal)
            .Take(MaxValues);
        foreach (var (value, count) in values)
        {
            if (TagLint.Find(value, kept) is { } slip)
            {
                yield return new ProposedMerge(field, value, slip.Agreed, slip.Kind, count);
            }
            else
            {
                kept.Add(value);
            }
        }
    }

    /// <summary>By its source; where a source has several mediums, by both.</summary>
    private static string NameOf(string source, string medium, bool hasSeveral)
    {
        var name = ReferrerSite.OfNetwork(source)?.Network ?? Worded(source);
        return hasSeveral ? $"{name} {medium}" : name;
    }

    /// <summary>“winter-members” as “Winter members”.</summary>
    private static string Worded(string value)
    {
        var text = string.Join(' ', value.Split(['-', '_', '+', ' ', '.'], StringSplitOptions.RemoveEmptyEntries));
        return text.Length == 0 ? value : char.ToUpperInvariant(text[0]) + text[1..];
    }
}

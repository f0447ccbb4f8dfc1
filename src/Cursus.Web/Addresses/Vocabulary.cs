using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Posts;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>The words a workspace has agreed on, by key: what requests are read against.</summary>
internal sealed class Vocabulary
{
    private Dictionary<string, Channel> channels = [];
    private Dictionary<string, Campaign> campaigns = [];
    private Dictionary<string, ShortDomain> domains = [];

    public static async Task<Vocabulary> Load(CursusDb db, Guid workspaceId, CancellationToken cancel) => new()
    {
        channels = await db.Channels.Where(c => c.WorkspaceId == workspaceId).ToDictionaryAsync(c => c.Key, cancel),
        campaigns = await db.Campaigns.Where(c => c.WorkspaceId == workspaceId).ToDictionaryAsync(c => c.Key, cancel),
        domains = await db.Domains.Where(d => d.WorkspaceId == workspaceId).ToDictionaryAsync(d => d.Name, cancel),
    };

    public Destination? Destination(string? text, FieldErrors errors)
    {
        if (!Core.Addresses.Destination.TryParse(text, out var destination, out var flaw))
        {
            errors.Add("destination", flaw);
        }
        else if (domains.ContainsKey(destination.Address.Host))
        {
            errors.Add("destination", AddressFlaws.LeadsBack(destination.Address.Host));
            return null;
        }

        return destination;
    }

    public Campaign? Campaign(string? key, FieldErrors errors)
    {
        if (string.IsNullOrWhiteSpace(key))
        {
            errors.Add("campaign", new Flaw("campaign-missing", "Choose the campaign that this belongs to, or add one."));
            return null;
        }

        if (!campaigns.TryGetValue(key.Trim(), out var campaign))
        {
            errors.Add("campaign", new Flaw("campaign-unknown", $"There is no campaign “{key}” in this workspace. Add it first, or choose another."));
        }

        return campaign;
    }

    public Channel? Channel(string? key, FieldErrors errors, string field)
    {
        if (key is not null && channels.TryGetValue(key.Trim(), out var channel))
        {
            return channel;
        }

        errors.Add(field, key is null
            ? new Flaw("channel-missing", "Choose a channel.")
            : new Flaw("channel-unknown", $"There is no channel “{key}” in this workspace. Its channels are {string.Join(", ", channels.Keys.Order(StringComparer.Ordinal))}."));
        return null;
    }

    /// <summary>The named domain, or the default one where none is named.</summary>
    public ShortDomain? Domain(string? name, FieldErrors errors)
    {
        var domain = string.IsNullOrWhiteSpace(name)
            ? domains.Values.FirstOrDefault(d => d.IsDefault) ?? domains.Values.FirstOrDefault(d => d.VerifiedAt is not null)
            : domains.GetValueOrDefault(name.Trim().ToLowerInvariant());
        if (domain is { VerifiedAt: not null })
        {
            return domain;
        }

        errors.Add("domain", domain is null
            ? string.IsNullOrWhiteSpace(name)
                ? new Flaw("domain-missing", "This workspace has no short domain yet. Add one in Set-up.")
                : new Flaw("domain-unknown", $"There is no short domain “{name}” in this workspace. Add it in Set-up, or choose another.")
            : new Flaw("domain-unverified", $"{domain.Name} doesn't point here yet, so its links would lead nowhere. Choose another domain until it does."));
        return null;
    }

    public static TagValue? Tag(string? text, FieldErrors errors, string field)
    {
        if (TagValue.TryParse(text, out var value, out var flaw))
        {
            return value;
        }

        errors.Add(field, flaw);
        return null;
    }

    public static TagValue? OptionalTag(string? text, FieldErrors errors, string field) => string.IsNullOrWhiteSpace(text) ? null : Tag(text, errors, field);

    public static Slug? OptionalSlug(string? text, FieldErrors errors, string field)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        if (!Slug.TryParse(text, out var slug, out var flaw))
        {
            errors.Add(field, flaw);
        }

        return slug;
    }

    public static short Redirect(int? status, FieldErrors errors)
    {
        if (status is null or 301 or 302 or 307 or 308)
        {
            return (short)(status ?? 302);
        }

        errors.Add("redirect", new Flaw("redirect", "A link answers with 301, 302, 307 or 308."));
        return 302;
    }
}

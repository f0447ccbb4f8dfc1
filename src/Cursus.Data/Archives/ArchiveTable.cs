using System.Reflection;
using System.Text.Json;
using Cursus.Core.Addresses;

namespace Cursus.Data.Archives;

/// <summary>One file of an archive and where its lines come from.</summary>
/// <param name="Name">Of the table; the file is called so too.</param>
/// <param name="Of">Which rows are the workspace's, <c>x</c> being the table and <c>$1</c> the workspace's id.</param>
/// <param name="Select">Columns, where they aren't simply the table's own.</param>
/// <param name="View">Where it is read from, if not from the table of its name.</param>
public sealed record ArchiveTable(string Name, string Of, string? Select = null, string? View = null)
{
    private const string Own = "x.workspace_id = $1";
    private const string OfLinks = "x.link_id in (select id from links where workspace_id = $1)";

    /// <summary>The columns of a workspace that an import sets as the archive has them; one that is older doesn't have all.</summary>
    internal static readonly string[] Settings =
    [
        "public_name",
        "time_zone",
        "week_start",
        "number_language",
        "redirect",
        "slug_kind",
        .. typeof(LinkOptions)
            .GetProperties(BindingFlags.Public | BindingFlags.Instance)
            .Select(p => "options_" + JsonNamingPolicy.SnakeCaseLower.ConvertName(p.Name)),
        "is_vocabulary_locked",
        "office_networks",
        "leaves_out_by_behaviour",
    ];

    /// <summary>Everything that an archive holds, each after what it refers to. Who may sign in, secrets, drafts and what follows from the rest
    /// (search texts, months of which there are clicks) stay out.</summary>
    public static IReadOnlyList<ArchiveTable> All { get; } =
    [
        new("workspaces", "x.id = $1", $"x.id, x.name, {string.Concat(Settings.Select(c => $"x.{c}, "))}x.clicks_kept_months, x.clicks_kept_from"),
        new(
            "members",
            Own,
            "x.id, (select name from accounts where id = x.account_id) as name, (select email from accounts where id = x.account_id) as email, x.role"
        ),
        new("recipes", Own),
        new("campaigns", Own),
        new("channels", Own),
        new("folders", Own),
        new("tags", Own),
        new("agreed_values", Own),
        new("tag_merges", Own),
        new("domains", Own),
        new("referrer_rules", Own),
        new("ad_networks", Own),
        new("pixels", Own),
        new("handoff_settings", Own),
        new("code_logos", Own),
        new("code_styles", Own),
        new("link_check_settings", Own),
        new("list_mappings", Own),
        new("saved_filters", Own),
        new("saved_views", Own),
        new("link_changes", Own),
        new("saved_routes", Own),
        new("saved_route_versions", "x.route_id in (select id from saved_routes where workspace_id = $1)"),
        new("links", Own),
        new("link_aliases", OfLinks),
        new("routed_pages", OfLinks, "x.link_id, x.number, x.destination, x.is_used"),
        new("rule_people", OfLinks, "x.link_id, x.rule, x.visitor, x.seen_at"),
        new("link_tags", OfLinks),
        new("link_pixels", OfLinks),
        new("link_versions", OfLinks),
        new("link_codes", OfLinks),
        new("posts", Own),
        new("placements", OfLinks),
        new("post_pixels", "x.post_id in (select id from posts where workspace_id = $1)"),
        new("campaign_pixels", "x.campaign_id in (select id from campaigns where workspace_id = $1)"),
        new("channel_pixels", "x.channel_id in (select id from channels where workspace_id = $1)"),
        new("domain_pixels", "x.domain_id in (select id from domains where workspace_id = $1)"),
        new("batches", $"{Own} and x.done_at is not null"),
        new("batch_lines", "x.batch_id in (select id from batches where workspace_id = $1 and done_at is not null)"),
        new("checked_pages", Own),
        new("link_days", OfLinks, View: "days_of_links"),
        new("link_months", $"{OfLinks} and x.month < (select clicks_kept_from from workspaces where id = $1)"),
        new("link_totals", OfLinks),
        new("pixel_days", OfLinks),
        new("referrers", "x.host in (select referrer_host from clicks where link_id in (select id from links where workspace_id = $1))"),
        new("user_agents", $"x.id in (select user_agent_id from clicks where link_id in (select id from links where workspace_id = $1))"),
        new("clicks", OfLinks, "x.at, x.link_id, x.visitor, x.kind, x.language, x.referrer_host, x.user_agent_id, x.country, x.code, x.page, x.rule"),
    ];

    /// <summary>Name of the file.</summary>
    public string File => Name + ".ndjson";

    /// <summary>Whether its rows name the workspace themselves.</summary>
    public bool IsOwn => Of.StartsWith(Own, StringComparison.Ordinal) && Name is not "members";

    /// <summary>Whether its rows are put in at all. Members stay who they are here.</summary>
    public bool IsImported => Name is not "members";

    /// <summary>Whether its rows are simply put in, without more ado.</summary>
    public bool IsPlain => IsImported && Name is not ("workspaces" or "referrers" or "user_agents" or "clicks" or "link_days");
}

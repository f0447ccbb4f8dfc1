using Cursus.Web.Clicks;

namespace Cursus.Web.Comparing;

/// <summary>A way to group clicks, as SQL.</summary>
/// <param name="Key">Expression of the group's key: over <c>links l</c> with <see cref="Joins"/> where the link decides, else over <c>counted c</c> and <c>picked l</c>.</param>
/// <param name="Label">Expression of what a person reads.</param>
/// <param name="Observed">What each click tells that the group is made of, by the column of <c>counted</c>; null where the link alone decides.</param>
/// <param name="Join">Tables that this dimension needs beside those; at most one row for a click.</param>
/// <param name="HoldsAgainstLink">True where what a click tells is held against its link.</param>
internal sealed record Dimension(string Key, string Label, string? Observed = null, string Join = "", bool HoldsAgainstLink = false)
{
    private const string WeekdayNames = "array['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']";

    /// <summary>Tables that every question joins; each is at most one row for a link. Values that were merged into others count under those.</summary>
    public const string Joins = """
        join domains d on d.id = l.domain_id
        left join channels ch on ch.id = l.channel_id
        left join campaigns ra on ra.id = l.campaign_id
        left join tag_merges ms on ms.workspace_id = l.workspace_id and ms.field = 0 and ms.from_value = l.source
        left join tag_merges mm on mm.workspace_id = l.workspace_id and mm.field = 1 and mm.from_value = l.medium
        left join tag_merges mc on mc.workspace_id = l.workspace_id and mc.field = 2 and mc.from_value = ra.key
        left join tag_merges mt on mt.workspace_id = l.workspace_id and mt.field = 3 and mt.from_value = l.term
        left join tag_merges mo on mo.workspace_id = l.workspace_id and mo.field = 4 and mo.from_value = l.content
        left join campaigns ca on ca.workspace_id = l.workspace_id and ca.key = coalesce(mc.into_value, ra.key)
        left join placements pl on pl.link_id = l.id
        left join posts po on po.id = pl.post_id
        """;

    /// <summary>By the name that <c>?by=</c> and the filters use.</summary>
    public static readonly IReadOnlyDictionary<string, Dimension> All = new Dictionary<string, Dimension>
    {
        ["channel"] = OfLink("coalesce(ch.key, '')", "coalesce(ch.name, 'No channel')"),
        ["campaign"] = OfLink("coalesce(ca.key, '')", "coalesce(ca.name, 'No campaign')"),
        ["source"] = OfLink("coalesce(ms.into_value, l.source, '')", "coalesce(ms.into_value, l.source, 'No source')"),
        ["medium"] = OfLink("coalesce(mm.into_value, l.medium, '')", "coalesce(mm.into_value, l.medium, 'No medium')"),
        ["content"] = OfLink("coalesce(mo.into_value, l.content, '')", "coalesce(mo.into_value, l.content, 'No content tag')"),
        ["term"] = OfLink("coalesce(mt.into_value, l.term, '')", "coalesce(mt.into_value, l.term, 'No term')"),
        ["post"] = OfLink("coalesce(po.id::text, '')", "coalesce(po.title, 'Single links')"),
        ["link"] = OfLink("l.id::text", "d.name || '/' || l.slug"),
        ["domain"] = OfLink("d.name", "d.name"),

        // A link may have several tags; its clicks then count under each.
        ["tag"] = new(
            "coalesce(t.name, '')", "coalesce(t.name, 'No tag')",
            Join: "left join link_tags lt on lt.link_id = l.id left join tags t on t.id = lt.tag_id"),
        ["referrer"] = OfClick("c.referrer_host", "coalesce(nullif(c.referrer_host, ''), 'Not told')", "referrer_host"),
        ["country"] = OfClick("c.country", "c.country", "country"),
        ["device"] = OfClick("c.device", "initcap(c.device)", "device"),
        ["browser"] = OfClick("c.browser", "c.browser", "browser"),
        ["os"] = OfClick("c.os", "c.os", "os"),
        ["language"] = OfClick("c.language", "coalesce(nullif(c.language, ''), 'Unknown')", "language"),
        ["network"] = OfReferrer(
            $"case when {ReferrerOrigin.IsOwnSite} then 'own' else coalesce(rc.key, r.network) end",
            $"case when {ReferrerOrigin.IsOwnSite} then 'Own site' else coalesce(rc.name, nullif(r.network, ''), 'Not told') end"),
        ["site"] = OfReferrer(
            $"case when {ReferrerOrigin.IsOwnSite} then 'own' else (array['', 'social', 'search', 'mail', 'messenger', 'video', 'own', 'other'])[r.kind + 1] end",
            $"case when {ReferrerOrigin.IsOwnSite} then 'Own site' else (array['Not told', 'Social network', 'Search', 'Mail', 'Messenger', 'Video', 'Own site', 'Another site'])[r.kind + 1] end"),
        ["wandered"] = OfReferrer(
            "case when rc.id is null then '' when rc.id = l.channel_id then 'stayed' else 'wandered' end",
            "case when rc.id is null then 'Not told' when rc.id = l.channel_id then 'Stayed on its channel' else 'Wandered to another' end") with
        { HoldsAgainstLink = true },
        ["hour"] = OfClick("lpad((c.week_hour % 24)::text, 2, '0')", "lpad((c.week_hour % 24)::text, 2, '0') || ':00'", "week_hour"),
        ["weekday"] = OfClick("(c.week_hour / 24 + 1)::text", $"({WeekdayNames})[c.week_hour / 24 + 1]", "week_hour"),
    };

    /// <summary>True where the link alone decides the group, false where each click does.</summary>
    public bool IsOfLink => Observed is null;

    /// <summary>True where the group can't be told without the click's link.</summary>
    public bool NeedsLink => IsOfLink || HoldsAgainstLink;

    /// <summary>Dimensions that can be filtered by: those that don't depend on the clock.</summary>
    public static readonly IReadOnlyList<string> Filters = ["channel", "campaign", "source", "medium", "content", "term", "post", "link", "tag", "domain", "referrer", "country", "device", "browser", "os", "language", "network", "site", "wandered"];

    private static Dimension OfLink(string key, string label) => new(key, label);

    private static Dimension OfClick(string key, string label, string observed) => new(key, label, observed);

    private static Dimension OfReferrer(string key, string label) => new(key, label, "referrer_host", ReferrerOrigin.Join);
}

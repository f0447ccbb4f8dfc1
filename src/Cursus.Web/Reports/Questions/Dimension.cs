using Cursus.Web.Clicks;
using Cursus.Web.Reports.Counts;

namespace Cursus.Web.Reports.Questions;

/// <summary>A way to group clicks, as SQL.</summary>
/// <param name="Key">Expression of the group's key: over <c>links l</c> where the link decides, else over <c>counted c</c>; see
/// <see cref="CountedSql"/>.</param>
/// <param name="Label">Expression of what a person reads.</param>
/// <param name="Observed">What each click tells that the group is made of, by the column of <c>counted</c>; null where the link alone
/// decides.</param>
/// <param name="Join">Tables that both expressions need beside those, one a line; at most one row for a link or a click.</param>
/// <param name="ComparisonKey">What of its link a click is held against, a column of <c>picked</c>: <c>channel_id</c> or <c>coded_link</c>, the link
/// itself.</param>
internal sealed record Dimension(string Key, string Label, string? Observed = null, string Join = "", string? ComparisonKey = null)
{
    private const string WeekdayNames = "array['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']";

    /// <summary>The post that a link is a placement of, as <c>po</c>.</summary>
    public const string PostJoin = "left join placements pl on pl.link_id = l.id\nleft join posts po on po.id = pl.post_id";

    /// <summary>What a code of a link is called: one that nobody made, the address of which somebody typed, by its number.</summary>
    private const string CodeName = $"case c.code when '{OwnCode}' then 'own code' else coalesce(co.name, 'code ' || c.code) end";

    private const string OwnCode = "1";
    private const string ChannelJoin = "left join channels ch on ch.id = l.channel_id";
    private const string DomainJoin = "join domains d on d.id = l.domain_id";

    /// <summary>By the name that <c>?by=</c> and the filters use.</summary>
    public static readonly IReadOnlyDictionary<string, Dimension> All = new Dictionary<string, Dimension>
    {
        ["channel"] = OfLink("coalesce(ch.key, '')", "coalesce(ch.name, 'No channel')", ChannelJoin),
        ["campaign"] = OfLink(
            "coalesce(ca.key, '')",
            "coalesce(ca.name, 'No campaign')",
            $"left join campaigns ra on ra.id = l.campaign_id\n{Merged("mc", 2, "ra.key")}\nleft join campaigns ca on ca.workspace_id = l.workspace_id and ca.key = coalesce(mc.into_value, ra.key)"
        ),
        ["source"] = OfLink("coalesce(ms.into_value, l.source, '')", "coalesce(ms.into_value, l.source, 'No source')", Merged("ms", 0, "l.source")),
        ["medium"] = OfLink("coalesce(mm.into_value, l.medium, '')", "coalesce(mm.into_value, l.medium, 'No medium')", Merged("mm", 1, "l.medium")),
        ["content"] = OfLink(
            "coalesce(mo.into_value, l.content, '')",
            "coalesce(mo.into_value, l.content, 'No content tag')",
            Merged("mo", 4, "l.content")
        ),
        ["term"] = OfLink("coalesce(mt.into_value, l.term, '')", "coalesce(mt.into_value, l.term, 'No term')", Merged("mt", 3, "l.term")),
        ["post"] = OfLink("coalesce(po.id::text, '')", "coalesce(po.title, 'Individual links')", PostJoin) with { IsSingle = true },
        ["link"] = OfLink("l.id::text", "d.name || '/' || l.slug", DomainJoin) with { IsSingle = true },
        ["placement"] = OfLink("l.id::text", "concat_ws(' · ', ch.name, nullif(pl.variant, ''))", $"{ChannelJoin}\n{PostJoin}") with
        {
            IsSingle = true,
        },
        ["domain"] = OfLink("d.name", "d.name", DomainJoin),

        // A link may have several tags; its clicks then count under each.
        ["tag"] = OfLink(
            "coalesce(t.name, '')",
            "coalesce(t.name, 'No tag')",
            "left join link_tags lt on lt.link_id = l.id\nleft join tags t on t.id = lt.tag_id"
        ) with
        {
            IfAny =
                "(exists (select 1 from link_tags flt join tags ft on ft.id = flt.tag_id where flt.link_id = l.id and ft.name = any(@f_tag))"
                + " or '' = any(@f_tag) and not exists (select 1 from link_tags flt where flt.link_id = l.id))",
        },

        // So may it have several pixels, one of them by its campaign and by its channel.
        ["pixel"] = OfLink(
            "coalesce(px.id::text, '')",
            "coalesce(px.name, 'No pixel')",
            "left join (select distinct link_id, pixel_id from pixels_of_links) fp on fp.link_id = l.id\nleft join pixels px on px.id = fp.pixel_id"
        ) with
        {
            IfAny =
                "(exists (select 1 from pixels_of_links ffp where ffp.link_id = l.id and ffp.pixel_id::text = any(@f_pixel))"
                + " or '' = any(@f_pixel) and not exists (select 1 from pixels_of_links ffp where ffp.link_id = l.id))",
        },
        ["referrer"] = OfClick("c.referrer_host", "coalesce(nullif(c.referrer_host, ''), 'Unknown')", "referrer_host"),
        ["country"] = OfClick("c.country", "c.country", "country"),
        ["device"] = OfClick("c.device", "initcap(c.device)", "device"),
        ["browser"] = OfClick("c.browser", "c.browser", "browser"),
        ["os"] = OfClick("c.os", "c.os", "os"),
        ["language"] = OfClick("c.language", "coalesce(nullif(c.language, ''), 'Unknown')", "language"),
        ["scan"] = OfClick("case c.code when '' then 'clicked' else 'scanned' end", "case c.code when '' then 'Click' else 'QR code' end", "code"),
        ["code"] = OfClick(
            "case c.code when '' then '' else c.coded_link || '/' || c.code end",
            $"case c.code when '' then 'No QR code' else concat_ws(' · ', cl.title, {CodeName}) end",
            "code"
        ) with
        {
            Join = "left join links cl on cl.id = c.coded_link\nleft join link_codes co on co.link_id = c.coded_link and co.number::text = c.code",
            ComparisonKey = "coded_link",
        },
        ["network"] = OfReferrer(
            $"case when {ReferrerOrigin.IsOwnSite} then 'own' else coalesce(rc.key, r.network) end",
            $"case when {ReferrerOrigin.IsOwnSite} then 'Own site' else coalesce(rc.name, nullif(r.network, ''), 'Unknown') end"
        ),
        ["site"] = OfReferrer(
            $"case when {ReferrerOrigin.IsOwnSite} then 'own' else (array['', 'social', 'search', 'mail', 'messenger', 'video', 'own', 'other'])[r.kind + 1] end",
            $"case when {ReferrerOrigin.IsOwnSite} then 'Own site' else (array['Unknown', 'Social network', 'Search', 'Mail', 'Messenger', 'Video', 'Own site', 'Other site'])[r.kind + 1] end"
        ),
        ["elsewhere"] = OfReferrer(
            "case when rc.id is null then '' when rc.id = c.channel_id then 'own-channel' else 'elsewhere' end",
            "case when rc.id is null then 'Unknown' when rc.id = c.channel_id then 'Own channel' else 'Shared elsewhere' end"
        ) with
        {
            ComparisonKey = "channel_id",
        },
        ["hour"] = OfClick("lpad((c.week_hour % 24)::text, 2, '0')", "lpad((c.week_hour % 24)::text, 2, '0') || ':00'", "week_hour"),
        ["weekday"] = OfClick("(c.week_hour / 24 + 1)::text", $"({WeekdayNames})[c.week_hour / 24 + 1]", "week_hour"),
    };

    /// <summary>True where the link alone decides the group, false where each click does.</summary>
    public bool IsOfLink => Observed is null;

    /// <summary>True where groups are single posts or links, so that nothing but themselves says how good they are.</summary>
    public bool IsSingle { get; private init; }

    /// <summary>True where posts belong to groups by their links, so that clicks per post can be asked for.</summary>
    public bool HasPosts => IsOfLink && !IsSingle;

    /// <summary>True where a link may be in several groups, so that their sum is more than all.</summary>
    public bool IsSeveral => IfAny is not null;

    /// <summary>Where a link may be in several groups, the condition that it is in one that is asked for; a join would count it once for
    /// each.</summary>
    public string? IfAny { get; private init; }

    /// <summary>Dimensions that can be filtered by: those that don't depend on the clock.</summary>
    public static readonly IReadOnlyList<string> Filters =
    [
        "channel",
        "campaign",
        "source",
        "medium",
        "content",
        "term",
        "post",
        "link",
        "tag",
        "pixel",
        "domain",
        "referrer",
        "country",
        "device",
        "browser",
        "os",
        "language",
        "network",
        "site",
        "elsewhere",
        "scan",
        "code",
    ];

    private static Dimension OfLink(string key, string label, string join) => new(key, label, Join: join);

    private static Dimension OfClick(string key, string label, string observed) => new(key, label, observed);

    /// <summary>Values that were merged into others count under those.</summary>
    private static string Merged(string alias, int field, string value) =>
        $"left join tag_merges {alias} on {alias}.workspace_id = l.workspace_id and {alias}.field = {field} and {alias}.from_value = {value}";

    private static Dimension OfReferrer(string key, string label) => new(key, label, "referrer_host", ReferrerOrigin.Join);
}

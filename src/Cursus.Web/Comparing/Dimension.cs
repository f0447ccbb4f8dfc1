namespace Cursus.Web.Comparing;

/// <summary>A way to group clicks, as SQL over <c>clicks c</c> and <c>links l</c> with their joins.</summary>
/// <param name="Key">Expression of the group's key.</param>
/// <param name="Label">Expression of what a person reads.</param>
/// <param name="IsOfLink">True where the link alone decides the group, false where each click does.</param>
internal sealed record Dimension(string Key, string Label, bool IsOfLink)
{
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
        ["tag"] = OfLink("coalesce(t.name, '')", "coalesce(t.name, 'No tag')"),
        ["referrer"] = OfClick("c.referrer_host", "coalesce(nullif(c.referrer_host, ''), 'Not told')"),
        ["hour"] = OfClick("to_char(c.at at time zone @zone, 'HH24')", "to_char(c.at at time zone @zone, 'HH24') || ':00'"),
        ["weekday"] = OfClick("to_char(c.at at time zone @zone, 'ID')", "trim(to_char(c.at at time zone @zone, 'Day'))"),
    };

    /// <summary>Dimensions that can be filtered by: those that don't depend on the clock.</summary>
    public static readonly IReadOnlyList<string> Filters = ["channel", "campaign", "source", "medium", "content", "term", "post", "link", "tag", "domain", "referrer"];

    /// <summary>A link may have several tags, so grouping by them needs a join of its own; its clicks then count under each.</summary>
    public static string JoinFor(string by) => by == "tag" ? "left join link_tags lt on lt.link_id = l.id left join tags t on t.id = lt.tag_id" : "";

    private static Dimension OfLink(string key, string label) => new(key, label, IsOfLink: true);

    private static Dimension OfClick(string key, string label) => new(key, label, IsOfLink: false);
}

namespace Cursus.Data.Clicks;

/// <summary>
/// The rule by which a referrer's host is known, as SQL over <c>c.referrer_host</c>: what the workspace's own rules say of it, the longest that fits;
/// else what is known everywhere of it, which may be a network that has a channel of the same name.
/// </summary>
internal static class ReferrerOrigin
{
    /// <summary>At most one row for a host: <c>r</c> what everybody knows, <c>rule</c> the workspace's rule, <c>rc</c> the channel, <c>od</c> an own
    /// short domain.</summary>
    public const string Join = """
        join referrers r on r.host = c.referrer_host
        left join (
            select distinct on (h.host) h.host, rr.id, rr.channel_id
            from referrer_rules rr join referrers h on h.host = rr.host or right(h.host, length(rr.host) + 1) = '.' || rr.host
            where rr.workspace_id = @workspace order by h.host, length(rr.host) desc
        ) rule on rule.host = c.referrer_host
        left join domains od on od.workspace_id = @workspace and od.name = c.referrer_host
        left join channels rc on rc.workspace_id = @workspace
            and case when rule.host is null then lower(rc.name) = lower(r.network) else rc.id = rule.channel_id end
        """;

    /// <summary>Whether the host is the organisation's own site or short domain.</summary>
    public const string IsOwnSite = "(od.id is not null or (rule.host is not null and rule.channel_id is null))";
}

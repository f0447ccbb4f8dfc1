using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Reports;
using Cursus.Data.Clicks;
using Cursus.Data.Reports.Counts;
using NodaTime;

namespace Cursus.Data.Reports.Questions;

/// <summary>Everything that clicks can be grouped and narrowed by. The contract of the API, the words of questions and the list that people choose
/// from are made of this.</summary>
internal static class Dimensions
{
    private const string WeekdayNames = "array['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']";

    /// <summary>The post that a link is a placement of, as <c>po</c>.</summary>
    public const string PostJoin = "left join placements pl on pl.link_id = l.id\nleft join posts po on po.id = pl.post_id";

    /// <summary>What a code of a link is called: one that nobody made, the address of which somebody typed, by its number.</summary>
    private const string CodeName = $"case c.code when '{OwnCode}' then 'own code' else coalesce(co.name, 'code ' || c.code) end";

    private const string OwnCode = "1";

    /// <summary>The number of the page that a click was led to; nothing for the link's own destination.</summary>
    private const string PageNumber = "split_part(c.way, '/', 2)";

    private const string FallbackPage = "1";
    private const string ChannelJoin = "left join channels ch on ch.id = l.channel_id";
    private const string DomainJoin = "join domains d on d.id = l.domain_id";
    private const int HoursOfDay = 24;

    private static readonly (SiteKind Kind, string Key, string Label)[] Sites =
    [
        (SiteKind.None, "", "Unknown"),
        (SiteKind.Social, "social", "Social network"),
        (SiteKind.Search, "search", "Search"),
        (SiteKind.Mail, "mail", "Mail"),
        (SiteKind.Messenger, "messenger", "Messenger"),
        (SiteKind.Video, "video", "Video"),
        (SiteKind.Own, "own", "Own site"),
        (SiteKind.Other, "other", "Other site"),
    ];

    /// <summary>In the order in which people choose from them.</summary>
    public static readonly IReadOnlyList<Dimension> InOrder =
    [
        new("channel", "coalesce(ch.key, '')", "coalesce(ch.name, 'No channel')")
        {
            Join = ChannelJoin,
            Next = "post",
            NamesSql = "select key, name from channels where workspace_id = @workspace and key = any(@f_channel)",
        },
        new("campaign", "coalesce(ca.key, '')", "coalesce(ca.name, 'No campaign')")
        {
            Join =
                $"left join campaigns ra on ra.id = l.campaign_id\n{Merged("mc", TagField.Campaign, "ra.key")}\n"
                + "left join campaigns ca on ca.workspace_id = l.workspace_id and ca.key = coalesce(mc.into_value, ra.key)",
            Next = "channel",
            NamesSql = "select key, name from campaigns where workspace_id = @workspace and key = any(@f_campaign)",
        },
        OfTag("source", "ms", TagField.Source, "No source") with
        {
            Next = "campaign",
        },
        OfTag("medium", "mm", TagField.Medium, "No medium") with
        {
            Next = "channel",
        },
        new("post", "coalesce(po.id::text, '')", "coalesce(po.title, 'Individual links')")
        {
            Join = PostJoin,
            IsSingle = true,
            Units = UnitKind.Link,
            Next = "channel",
            NamesSql = "select id::text, title from posts where workspace_id = @workspace and id::text = any(@f_post)",
        },
        OfTag("content", "mo", TagField.Content, "No content tag") with
        {
            Words = "variant",
            Next = "post",
        },
        OfTag("term", "mt", TagField.Term, "No term") with
        {
            Next = "campaign",
        },
        // A link may have several tags; its clicks then count under each.
        new("tag", "coalesce(t.name, '')", "coalesce(t.name, 'No tag')")
        {
            Join = "left join link_tags lt on lt.link_id = l.id\nleft join tags t on t.id = lt.tag_id",
            IfAny =
                "(exists (select 1 from link_tags flt join tags ft on ft.id = flt.tag_id where flt.link_id = l.id and ft.name = any(@f_tag))"
                + " or '' = any(@f_tag) and not exists (select 1 from link_tags flt where flt.link_id = l.id))",
            Next = "channel",
        },
        // So may it have several pixels, one of them by its campaign and by its channel.
        new("pixel", "coalesce(px.id::text, '')", "coalesce(px.name, 'No pixel')")
        {
            Join =
                "left join (select distinct link_id, pixel_id from pixels_of_links) fp on fp.link_id = l.id\nleft join pixels px on px.id = fp.pixel_id",
            IfAny =
                "(exists (select 1 from pixels_of_links ffp where ffp.link_id = l.id and ffp.pixel_id::text = any(@f_pixel))"
                + " or '' = any(@f_pixel) and not exists (select 1 from pixels_of_links ffp where ffp.link_id = l.id))",
            Next = "campaign",
            NamesSql = "select id::text, name from pixels where workspace_id = @workspace and id::text = any(@f_pixel)",
        },
        new("link", "l.id::text", "d.name || '/' || l.slug")
        {
            Join = DomainJoin,
            IsSingle = true,
            Units = null,
            Next = "network",
            NamesSql =
                "select l.id::text, d.name || '/' || l.slug from links l join domains d on d.id = l.domain_id where l.workspace_id = @workspace and l.id::text = any(@f_link)",
        },
        new("placement", "l.id::text", "concat_ws(' · ', ch.name, nullif(pl.variant, ''))")
        {
            Join = $"{ChannelJoin}\n{PostJoin}",
            IsSingle = true,
            Units = null,
            IsChosen = false,
            IsFilter = false,
        },
        new("referrer", "c.referrer_host", "coalesce(nullif(c.referrer_host, ''), 'Unknown')")
        {
            Detail = ClickDetail.ReferrerHost,
            Next = "channel",
        },
        OfReferrer(
            "network",
            $"case when {ReferrerOrigin.IsOwnSite} then 'own' else coalesce(rc.key, r.network) end",
            $"case when {ReferrerOrigin.IsOwnSite} then 'Own site' else coalesce(rc.name, nullif(r.network, ''), 'Unknown') end"
        ) with
        {
            Words = "network clicked on",
            Next = "channel",
            NamesSql = "select key, name from channels where workspace_id = @workspace and key = any(@f_network)",
            KeyNames = new Dictionary<string, string> { ["own"] = "own site" },
        },
        OfReferrer("site", OfSite(s => s.Key), OfSite(s => s.Label)) with
        {
            Words = "kind of site",
            Next = "network",
            KeyNames = new Dictionary<string, string>
            {
                ["own"] = "own site",
                ["social"] = "social network",
                ["messenger"] = "messenger",
                ["other"] = "another site",
            },
        },
        OfReferrer(
            "elsewhere",
            "case when rc.id is null then '' when rc.id = c.channel_id then 'own-channel' else 'elsewhere' end",
            "case when rc.id is null then 'Unknown' when rc.id = c.channel_id then 'Own channel' else 'Shared elsewhere' end"
        ) with
        {
            Words = "channel (own or other)",
            ComparisonKey = "channel_id",
            Next = "network",
            KeyNames = new Dictionary<string, string> { ["own-channel"] = "on its own channel", ["elsewhere"] = "shared elsewhere" },
        },
        new("scan", "case c.code when '' then 'clicked' else 'scanned' end", "case c.code when '' then 'Click' else 'QR code' end")
        {
            Words = "way in (click or scan)",
            Detail = ClickDetail.Code,
            Next = "code",
            IsExported = false,
            KeyNames = new Dictionary<string, string> { ["clicked"] = "by a click", ["scanned"] = "by QR code" },
        },
        new(
            "code",
            "case c.code when '' then '' else c.coded_link || '/' || c.code end",
            $"case c.code when '' then 'No QR code' else concat_ws(' · ', cl.title, {CodeName}) end"
        )
        {
            Words = "QR code",
            Detail = ClickDetail.Code,
            Join = "left join links cl on cl.id = c.coded_link\nleft join link_codes co on co.link_id = c.coded_link and co.number::text = c.code",
            ComparisonKey = "coded_link",
            Next = "device",
            NamesSql = """
                select co.link_id || '/' || co.number, l.title || ' · ' || co.name from link_codes co join links l on l.id = co.link_id
                where l.workspace_id = @workspace and co.link_id || '/' || co.number = any(@f_code)
                """,
        },
        new("age", OfAge(a => a.Key), OfAge(a => a.Label))
        {
            Words = "post age",
            Detail = ClickDetail.Age,
            Next = "channel",
            KeyNames = PostAge.All.ToDictionary(a => a.Key, a => a.Label.ToLowerInvariant()),
            Order = _ => [.. PostAge.All.Select(a => (a.Key, a.Label))],
        },
        new(
            "destination",
            $"case {PageNumber} when '' then dl.destination when '{FallbackPage}' then coalesce(dl.fallback, '') else coalesce(rp.destination, '') end",
            $"regexp_replace(case {PageNumber} when '' then dl.destination when '{FallbackPage}' then coalesce(dl.fallback, 'Fallback page') else coalesce(rp.destination, 'Deleted page') end, '^https?://', '')"
        )
        {
            Detail = ClickDetail.Way,
            Join =
                $"left join links dl on dl.id = c.coded_link\nleft join routed_pages rp on rp.link_id = c.coded_link and rp.number::text = {PageNumber}",
            ComparisonKey = "coded_link",
            Next = "channel",
            // Clicks of a split follow the shares that were set, so that none of its pages is ahead of another.
            Units = null,
            IsOfPages = true,
        },
        new("country", "c.country", "c.country")
        {
            Detail = ClickDetail.Country,
            Next = "channel",
            Shown = CountryNames.Of,
            KeyNames = new Dictionary<string, string> { [""] = CountryNames.Of("") },
        },
        new("device", "c.device", "initcap(c.device)") { Detail = ClickDetail.Device, Next = "browser" },
        new("browser", "c.browser", "c.browser") { Detail = ClickDetail.Browser, Next = "device" },
        new("os", "c.os", "c.os")
        {
            Words = "operating system",
            Detail = ClickDetail.Os,
            Next = "device",
        },
        new("language", "c.language", "coalesce(nullif(c.language, ''), 'Unknown')") { Detail = ClickDetail.Language, Next = "country" },
        new("domain", "d.name", "d.name")
        {
            Words = "short domain",
            Join = DomainJoin,
            Next = "channel",
        },
        new("weekday", "(c.week_hour / 24 + 1)::text", $"({WeekdayNames})[c.week_hour / 24 + 1]")
        {
            Detail = ClickDetail.WeekHour,
            Units = UnitKind.Week,
            IsFilter = false,
            IsExported = false,
            Order = weekStart => [.. Enumerable.Range((int)weekStart - 1, 7).Select(d => d % 7 + 1).Select(d => ($"{d}", $"{(IsoDayOfWeek)d}"))],
        },
        new("hour", "lpad((c.week_hour % 24)::text, 2, '0')", "lpad((c.week_hour % 24)::text, 2, '0') || ':00'")
        {
            Detail = ClickDetail.WeekHour,
            Units = UnitKind.Week,
            IsFilter = false,
            IsExported = false,
            Order = _ => [.. Enumerable.Range(0, HoursOfDay).Select(h => ($"{h:00}", $"{h:00}:00"))],
        },
    ];

    /// <summary>By name.</summary>
    public static readonly IReadOnlyDictionary<string, Dimension> All = InOrder.ToDictionary(d => d.Name);

    /// <summary>Names of those that answers can be narrowed by.</summary>
    public static readonly IReadOnlyList<string> Filters = [.. InOrder.Where(d => d.IsFilter).Select(d => d.Name)];

    private static Dimension OfTag(string name, string alias, TagField field, string none) =>
        new(name, $"coalesce({alias}.into_value, l.{name}, '')", $"coalesce({alias}.into_value, l.{name}, '{none}')")
        {
            Join = Merged(alias, field, $"l.{name}"),
        };

    /// <summary>Values that were merged into others count under those.</summary>
    private static string Merged(string alias, TagField field, string value) =>
        $"left join tag_merges {alias} on {alias}.workspace_id = l.workspace_id and {alias}.field = {(int)field} and {alias}.from_value = {value}";

    private static Dimension OfReferrer(string name, string key, string label) =>
        new(name, key, label) { Detail = ClickDetail.ReferrerHost, Join = ReferrerOrigin.Join };

    private static string OfSite(Func<(SiteKind Kind, string Key, string Label), string> text) =>
        $"case when {ReferrerOrigin.IsOwnSite} then '{text(Sites.First(s => s.Kind == SiteKind.Own))}' else case r.kind "
        + string.Concat(Sites.Select(s => $"when {(int)s.Kind} then '{text(s)}' "))
        + "end end";

    private static string OfAge(Func<PostAge, string> text) => $"(array['{string.Join("', '", PostAge.All.Select(text))}'])[c.age + 1]";
}

using System.Globalization;
using Cursus.Core.Reports;

namespace Cursus.Data.Reports.Counts;

/// <summary>Something that each click tells for itself.</summary>
/// <param name="Column">Its column in the table <c>counted</c>; see <see cref="CountedSql"/>.</param>
/// <param name="Sql">How a click tells it, over <c>clicks c</c>, <c>user_agents ua</c>, the link <c>picked l</c> and <c>clock</c>, which has the
/// click's <c>local</c> time.</param>
/// <param name="Tally">The column of roll-ups that it is read from.</param>
/// <param name="Reading">How it is read from there.</param>
internal sealed record ClickDetail(string Column, string Sql, string Tally, TallyReading Reading = TallyReading.Values)
{
    /// <summary>The tally of people's clicks by hour.</summary>
    public const string Hours = "hours";

    public static readonly ClickDetail Country = new("country", "c.country", "country");
    public static readonly ClickDetail Device = new("device", "ua.device", "device");
    public static readonly ClickDetail Browser = new("browser", "ua.browser", "browser");
    public static readonly ClickDetail Os = new("os", "ua.os", "os");
    public static readonly ClickDetail Language = new("language", "c.language", "language");
    public static readonly ClickDetail ReferrerHost = new("referrer_host", "c.referrer_host", "referrer");
    public static readonly ClickDetail Code = new("code", "coalesce(nullif(c.code, 0)::text, '')", "code");

    /// <summary>The rule of its link's route that decided, and the page it led to; nothing for the link's own destination.</summary>
    public static readonly ClickDetail Way = new("way", "case when c.rule = 0 and c.page = 0 then '' else c.rule || '/' || c.page end", "way");
    public static readonly ClickDetail WeekHour = new(
        "week_hour",
        "(extract(isodow from clock.local)::int - 1) * 24 + extract(hour from clock.local)::int",
        Hours,
        TallyReading.HoursOfWeek
    );
    public static readonly ClickDetail Age = new("age", AgeSql(), Hours, TallyReading.HoursSincePost);

    /// <summary>All that clicks tell.</summary>
    public static readonly IReadOnlyList<ClickDetail> All = [Country, Device, Browser, Os, Language, ReferrerHost, Code, Way, WeekHour, Age];

    /// <summary>Whether it depends on when posts went out; see <see cref="PostStarts"/>.</summary>
    public bool NeedsStarts => Reading == TallyReading.HoursSincePost;

    /// <summary>The place among <see cref="PostAge.All"/>.</summary>
    private static string AgeSql()
    {
        var bands = PostAge
            .All.Index()
            .Where(a => a.Item.Until is not null)
            .Select(a =>
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"when date_trunc('hour', clock.local) < l.went_out + interval '{a.Item.Until} hours' then {a.Index}"
                )
            );
        return $"case when l.went_out is null then 0 {string.Join(' ', bands)} else {PostAge.All.Count - 1} end";
    }
}

/// <summary>How something is read from a roll-up's tally.</summary>
internal enum TallyReading
{
    /// <summary>Its values are the tally's.</summary>
    Values,

    /// <summary>The tally's hours of the day, as hours of the week.</summary>
    HoursOfWeek,

    /// <summary>The tally's hours of the day, as the age of the link's post.</summary>
    HoursSincePost,
}

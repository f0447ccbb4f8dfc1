using NodaTime;

namespace Cursus.Core.Reports;

/// <summary>How old a post was when somebody clicked, in bands that tell a burst from a long life. Hours are those of the workspace's clock: the one
/// in which the post went out is the first.</summary>
/// <param name="Key">What reports and files say.</param>
/// <param name="Label">What people read.</param>
/// <param name="Until">The first hour that is older, from 0; null where none is.</param>
public sealed record PostAge(string Key, string Label, int? Until)
{
    private const int HoursOfDay = 24;

    /// <summary>All of them, the youngest first. </summary>
    public static IReadOnlyList<PostAge> All { get; } =
    [
        new("before", "Before it went out", 0),
        new("hour", "First hour", 1),
        new("day", "Hours 2–24", HoursOfDay),
        new("week", "Days 2–7", 7 * HoursOfDay),
        new("month", "Days 8–30", 30 * HoursOfDay),
        new("later", "After day 30", null),
    ];

    /// <summary>The band, by its place in <see cref="All"/>, of a click so many hours after the one in which the post went out.</summary>
    /// <param name="hours">Negative before it went out; null where it never did.</param>
    public static int PlaceOf(int? hours)
    {
        var place = 0;
        while (hours >= All[place].Until)
        {
            place++;
        }

        return place;
    }

    /// <summary>When a post went out on a channel, on the workspace's clock: the opening of its link, where that is no earlier than the day that the
    /// marketer named, else its first click from that day on. Null where there is neither. Marketers name a day and no hour: common practice, no
    /// source.</summary>
    public static LocalDateTime? WentOut(LocalDate publishedOn, LocalDateTime? openedAt, LocalDateTime? firstClickAt) =>
        firstClickAt is null ? null
        : openedAt?.Date >= publishedOn ? openedAt
        : firstClickAt;
}

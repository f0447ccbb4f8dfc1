using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>People's clicks of some links on each of the last thirty days.</summary>
internal sealed class LinkCourses
{
    public const int Days = 30;

    private readonly Dictionary<Guid, int[]> courses;

    private LinkCourses(Dictionary<Guid, int[]> courses) => this.courses = courses;

    /// <summary>Thirty numbers, today's last.</summary>
    public IReadOnlyList<int> Of(Guid link) => courses.GetValueOrDefault(link) ?? new int[Days];

    public static async Task<LinkCourses> Of(IReadOnlyList<Guid> links, LocalDate today, CursusDb db, CancellationToken cancel)
    {
        var first = today.PlusDays(1 - Days);
        var days = await db
            .LinkDays.Where(d => links.Contains(d.LinkId) && d.Day >= first && d.Day <= today && d.Clicks > 0)
            .Select(d => new
            {
                d.LinkId,
                d.Day,
                d.Clicks,
            })
            .ToListAsync(cancel);
        var courses = new Dictionary<Guid, int[]>();
        foreach (var day in days)
        {
            if (!courses.TryGetValue(day.LinkId, out var course))
            {
                courses[day.LinkId] = course = new int[Days];
            }

            course[Period.DaysBetween(first, day.Day)] = day.Clicks;
        }

        return new LinkCourses(courses);
    }
}

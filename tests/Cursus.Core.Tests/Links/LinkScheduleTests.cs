using CsCheck;
using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Core.Tests.Links;

/// <summary>Where a link stands in its time, and how the time is said.</summary>
public class LinkScheduleTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static readonly Gen<Instant?> Bounds = Gen.Int[-1, 5].Select(day => day < 0 ? (Instant?)null : Instant.FromUnixTimeSeconds(day));

    [Fact]
    public void A_link_leads_on_from_its_first_moment_until_just_before_its_end() =>
        Gen.Select(Bounds, Bounds, Gen.Int[0, 5])
            .Sample(
                (opens, ends, second) =>
                {
                    var span = new LinkSchedule(opens, ends);
                    if (!span.IsPossible(out var error))
                    {
                        error.Code.ShouldBe("ends-before-opening");
                        (ends <= opens).ShouldBeTrue();
                        return;
                    }

                    // Counted out moment by moment: all that lie between its bounds, the first of them included.
                    var open = Enumerable
                        .Range(-1, 8)
                        .Where(s => (opens is null || s >= opens.Value.ToUnixTimeSeconds()) && (ends is null || s < ends.Value.ToUnixTimeSeconds()))
                        .ToList();
                    var expected =
                        open.Contains(second) ? LinkStage.Open
                        : opens is { } first && second < first.ToUnixTimeSeconds() ? LinkStage.Scheduled
                        : LinkStage.Ended;
                    span.StageAt(Instant.FromUnixTimeSeconds(second)).ShouldBe(expected);
                    span.IsAlways.ShouldBe(open.Count == 8);
                }
            );

    /// <summary>Moments with an offset are the examples of RFC 3339, section 5.8, but for the leap seconds.</summary>
    [Theory]
    [InlineData("1985-04-12T23:20:50.52Z", "1985-04-12T23:20:50.52Z", "1985-04-12T23:20:50.52Z")]
    [InlineData("1996-12-19T16:39:57-08:00", "1996-12-20T00:39:57Z", "1996-12-20T00:39:57Z")]
    [InlineData("1937-01-01T12:00:27.87+00:20", "1937-01-01T11:40:27.87Z", "1937-01-01T11:40:27.87Z")]
    [InlineData("2026-11-29t18:00:00z", "2026-11-29T18:00:00Z", "2026-11-29T18:00:00Z")]
    [InlineData(" 2026-11-29T18:00 ", "2026-11-29T18:00:00Z", "2026-11-29T18:00:00Z")]
    [InlineData("2026-07-01T09:00", "2026-07-01T08:00:00Z", "2026-07-01T08:00:00Z")]
    [InlineData("2026-11-29", "2026-11-29T00:00:00Z", "2026-11-30T00:00:00Z")]
    [InlineData("2026-03-29", "2026-03-29T00:00:00Z", "2026-03-29T23:00:00Z")]
    [InlineData("2026-03-29T01:30", "2026-03-29T01:30:00Z", "2026-03-29T01:30:00Z")]
    public void A_bound_is_a_moment_a_time_by_the_workspaces_clock_or_a_whole_day(string typed, string opens, string ends)
    {
        ScheduleBound.TryReadOpening(typed, London, out var opening, out _).ShouldBeTrue();
        ScheduleBound.TryReadEnd(typed, London, out var end, out _).ShouldBeTrue();
        (opening, end).ShouldBe((At(opens), At(ends)));
    }

    [Theory]
    [InlineData("soon", "time")]
    [InlineData("29/11/2026", "time")]
    [InlineData("2026-02-30", "time")]
    [InlineData("2026-11-29 18:00", "time")]
    [InlineData("9999-12-31", "time-far")]
    [InlineData("9999-12-31T23:59", "time-far")]
    [InlineData("0001-01-01T00:00:00Z", "time-far")]
    public void Anything_else_is_refused_with_what_to_write(string typed, string code)
    {
        foreach (var zone in new[] { London, DateTimeZoneProviders.Tzdb["America/New_York"], DateTimeZoneProviders.Tzdb["Pacific/Auckland"] })
        {
            ScheduleBound.TryReadOpening(typed, zone, out _, out var error).ShouldBeFalse();
            error!.Code.ShouldBe(code);
            ScheduleBound.TryReadEnd(typed, zone, out _, out error).ShouldBeFalse();
            error!.Text.ShouldContain(typed);
        }
    }

    private static Instant At(string text) => NodaTime.Text.InstantPattern.ExtendedIso.Parse(text).Value;
}

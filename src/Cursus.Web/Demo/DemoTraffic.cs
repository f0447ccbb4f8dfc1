using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Web.Demo;

/// <summary>
/// Makes believable clicks for the demo's links from a fixed seed: each channel's own half-life, hours and weekdays as people keep them,
/// wandering links, machines, previews and the team's own visits. What gives mail scanners away is in <see cref="DemoScanners"/>.
/// </summary>
internal sealed class DemoTraffic(DemoScenario scenario, DateTimeZone zone, Instant now, int seed)
{
    // How much of a day's clicks fall into each hour of an ordinary day.
    private static readonly double[] HourWeights =
    [
        .3,
        .2,
        .15,
        .1,
        .1,
        .2,
        .6,
        1.4,
        2,
        1.6,
        1.3,
        1.3,
        1.7,
        1.4,
        1.1,
        1.1,
        1.3,
        1.7,
        2.1,
        2.6,
        3,
        2.8,
        1.8,
        .8,
    ];

    private readonly Random random = new(seed);

    /// <summary>How well a post does beside an ordinary one: mostly 0.5 to 2 times.</summary>
    public double Appeal() => Math.Exp(0.55 * Gaussian());

    /// <summary>All clicks on one link, in no order.</summary>
    /// <param name="exactly">The number of people's clicks where the story needs one; else it follows from reach and
    /// <paramref name="appeal"/>.</param>
    public IEnumerable<Click> On(Guid linkId, DemoScenario.ChannelFile channel, Instant posted, double appeal, int? exactly)
    {
        var people = exactly ?? Poisson(channel.Reach * appeal);
        var clicked = new List<Instant>(people);
        for (var i = 0; i < people; i++)
        {
            if (MomentAfter(posted, channel.HalfLifeHours, mustHavePassed: exactly is not null) is { } at)
            {
                var click = Person(linkId, channel, at);
                clicked.Add(at);
                yield return click;

                // Now and then the same person comes back a little later.
                if (exactly is null && random.NextDouble() < 0.12 && at + Duration.FromMinutes(random.Next(1, 300)) is var again && again < now)
                {
                    clicked.Add(again);
                    yield return click with
                    {
                        At = again,
                    };
                }
            }
        }

        foreach (
            var (kind, share) in new[] { (ClickKind.Machine, .09), (ClickKind.Preview, .035), (ClickKind.Team, .012), (ClickKind.Prefetch, .006) }
        )
        {
            for (var i = Poisson(people * share); i > 0; i--)
            {
                // Nobody's click is to pass for an echo of the team's by chance: the story needs the exact numbers.
                if (
                    MomentAfter(posted, channel.HalfLifeHours * 1.5, mustHavePassed: false) is { } at
                    && !(kind == ClickKind.Team && clicked.Exists(c => c >= at && c - at < BehaviourWatch.AfterTeam))
                )
                {
                    yield return Other(linkId, kind, at);
                }
            }
        }
    }

    private Click Person(Guid linkId, DemoScenario.ChannelFile channel, Instant at)
    {
        var agents = random.NextDouble() < channel.Phones ? scenario.Agents.Phones : scenario.Agents.Desktops;
        var drawn = random.NextInt64();
        var country = CountryCode.Of(scenario.Agents.Countries[(int)(drawn % scenario.Agents.Countries.Count)]);
        return new Click(
            at,
            linkId,
            ClickKind.Person,
            AsHash(drawn),
            country,
            default,
            Referrer(channel),
            Any(agents),
            Any(scenario.Agents.Languages),
            DemoCodes.CodeOf(scenario, channel, drawn)
        );
    }

    private Click Other(Guid linkId, ClickKind kind, Instant at) =>
        new(
            at,
            linkId,
            kind,
            AsHash(random.NextInt64()),
            default,
            default,
            "",
            Any(
                kind switch
                {
                    ClickKind.Machine => scenario.Agents.Machines,
                    ClickKind.Preview => scenario.Agents.Previews,
                    _ => scenario.Agents.Desktops,
                }
            ),
            kind is ClickKind.Machine or ClickKind.Preview ? "" : "en"
        );

    private string Referrer(DemoScenario.ChannelFile channel)
    {
        var draw = random.NextDouble();
        if (draw < channel.Untold)
        {
            return "";
        }

        var from =
            draw < channel.Untold + channel.Wander ? Any(scenario.Channels.Where(c => c.Medium is "social" && c != channel).ToList()) : channel;
        return from.Medium is "email" or "print" or "sms" ? "" : $"{from.Key}.localhost";
    }

    /// <summary>A moment after posting by the channel's decay, moved to an hour at which people are awake; null where it lies in the
    /// future.</summary>
    private Instant? MomentAfter(Instant posted, double halfLifeHours, bool mustHavePassed)
    {
        for (var attempt = 0; attempt < 200; attempt++)
        {
            var at = posted + Duration.FromHours(-halfLifeHours / Math.Log(2) * Math.Log(1 - random.NextDouble()));
            var local = at.InZone(zone);
            var weekend = local.DayOfWeek is IsoDayOfWeek.Saturday or IsoDayOfWeek.Sunday ? 0.8 : 1;
            if (random.NextDouble() * 3 > HourWeights[local.Hour] * weekend)
            {
                continue;
            }

            if (at < now)
            {
                return Instant.FromUnixTimeMilliseconds(at.ToUnixTimeMilliseconds());
            }

            if (!mustHavePassed)
            {
                return null;
            }
        }

        return null;
    }

    private T Any<T>(IReadOnlyList<T> choices) => choices[random.Next(choices.Count)];

    private int Poisson(double mean)
    {
        // The normal curve is near enough for the means that occur here.
        return mean <= 0 ? 0 : Math.Max(0, (int)Math.Round(mean + Math.Sqrt(mean) * Gaussian()));
    }

    private double Gaussian() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    /// <summary>Hashes fill all 64 bits, random numbers leave the sign free; sketches of visitors go by the upper bits.</summary>
    private static long AsHash(long drawn) => drawn << 1;
}

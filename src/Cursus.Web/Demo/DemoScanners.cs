using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Web.Demo;

/// <summary>
/// Makes the clicks of mail scanners and link checkers that each sending of a newsletter brings: they send what browsers send, and are given away by
/// opening all links of a message at once, by asking for the headers first, or by what their requests lack. From a seed of their own, so that nobody
/// else's clicks change with them.
/// </summary>
internal sealed class DemoScanners(DemoScenario scenario, Instant now, int seed)
{
    /// <summary>A message leads to its own post and to those of the messages before it.</summary>
    private const int LinksOfMessage = 5;

    private const RequestSigns Whole = RequestSigns.Told | RequestSigns.AcceptsPages | RequestSigns.HasLanguage;

    private readonly Random random = new(seed);

    /// <param name="messages">The newsletter's links with when each was sent, oldest first.</param>
    public IEnumerable<Click> On(IReadOnlyList<(Guid Link, Instant Sent)> messages)
    {
        for (var message = LinksOfMessage - 1; message < messages.Count; message++)
        {
            var (link, sent) = messages[message];
            List<Guid> links = [.. messages.Skip(message + 1 - LinksOfMessage).Take(LinksOfMessage).Select(m => m.Link).Reverse()];
            for (var scanner = random.Next(4, 12); scanner > 0; scanner--)
            {
                var (at, visit) = (sent + Duration.FromSeconds(random.Next(5, 900)), Visit(link));
                foreach (var next in links)
                {
                    yield return visit with
                    {
                        At = at,
                        LinkId = next,
                    };
                    at += Duration.FromMilliseconds(random.Next(60, 400));
                }
            }

            for (var checker = random.Next(3); checker > 0; checker--)
            {
                var visit = Visit(link) with { At = sent + Duration.FromSeconds(random.Next(5, 3600)) };
                yield return visit with
                {
                    Kind = ClickKind.Head,
                };
                yield return visit with
                {
                    At = visit.At + Duration.FromMilliseconds(random.Next(200, 3000)),
                };
            }

            for (var impostor = random.Next(2, 9); impostor > 0; impostor--)
            {
                yield return Visit(link) with
                {
                    At = sent + Duration.FromSeconds(random.Next(5, 7200)),
                    Signs = RequestSigns.Told,
                };
            }
        }
    }

    private Click Visit(Guid link) =>
        new(
            now,
            link,
            ClickKind.Person,
            random.NextInt64() << 1,
            CountryCode.Of("GB"),
            default,
            "",
            scenario.Agents.Desktops[random.Next(scenario.Agents.Desktops.Count)],
            "en",
            0,
            Whole,
            random.Next() | 1
        );
}

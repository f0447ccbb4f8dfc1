using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Web.Problems;
using NodaTime;

namespace Cursus.Web.Links.Routes;

/// <summary>A made-up visit.</summary>
internal sealed class TriedVisit : IRouteVisit
{
    /// <summary>The longest language, referrer and query, in characters: more than browsers send.</summary>
    private const int MaxText = 4_000;

    private readonly LinkRoutes.Trial trial;
    private readonly UserAgentReading? agent;

    private readonly IReadOnlyDictionary<byte, int> people;

    private TriedVisit(LinkRoutes.Trial trial, Instant now, IReadOnlyDictionary<byte, int> people)
    {
        (this.trial, Now, this.people) = (trial, now, people);
        agent = string.IsNullOrWhiteSpace(trial.UserAgent) ? null : UserAgentReading.Of(trial.UserAgent, default);
    }

    public Instant Now { get; }

    public long Visitor => 0;

    /// <summary>Reads what was asked; what is wrong with it is in <paramref name="errors"/>.</summary>
    /// <param name="people">How many each rule has let through.</param>
    public static TriedVisit Read(LinkRoutes.Trial trial, DateTimeZone zone, Instant now, IReadOnlyDictionary<byte, int> people, FieldErrors errors)
    {
        if (!string.IsNullOrWhiteSpace(trial.At) && !ScheduleBound.TryReadOpening(trial.At, zone, out now, out var error))
        {
            errors.Add("at", error);
        }

        if (trial.UserAgent?.Length > Click.MaxUserAgent)
        {
            errors.Add("userAgent", new("user-agent", $"A user agent has at most {Click.MaxUserAgent} characters here. Shorten it."));
            trial = trial with { UserAgent = null };
        }

        foreach (var (field, text) in new[] { ("language", trial.Language), ("referrer", trial.Referrer), ("query", trial.Query) })
        {
            if (text?.Length > MaxText)
            {
                errors.Add(field, new("too-long", $"This has more than {MaxText} characters. Shorten it."));
            }
        }

        return new(trial, now, people);
    }

    public CountryCode Country() => CountryCode.Of(trial.Country ?? "");

    public RouteDevice Device() => trial.Device ?? RouteDevices.Of(agent?.Device);

    public string System() => trial.System ?? agent?.Os ?? "";

    public string AcceptLanguage() => trial.Language ?? "";

    public string Network()
    {
        var text = trial.Referrer ?? "";
        Span<char> host = stackalloc char[ReferrerHost.MaxLength];
        var length = ReferrerHost.Read(text, host);
        return length == 0 ? text : ReferrerSite.Of(host[..length].ToString()).Network;
    }

    public string Query() => trial.Query ?? "";

    public bool IsAmongFirst(byte rule, int count) => people.GetValueOrDefault(rule) < count;
}

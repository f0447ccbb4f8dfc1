using System.Net;
using Cursus.Core.Clicks;
using Microsoft.AspNetCore.Http.Features;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>Writes down in the click journal what a request tells of its visitor. The network address is used for country and hash and not kept.</summary>
internal sealed class VisitReader(Data.Clicks.ClickJournal journal, ClientAddress addresses, CountryTable countries, IClock clock)
{
    /// <summary>Writes one answered visit down.</summary>
    /// <param name="kind">What is known otherwise of who it was; null goes by the request.</param>
    public void Record(IHttpRequestFeature request, IHttpConnectionFeature? connection, DomainEntry domain, in LinkEntry link, ClickKind? kind)
    {
        var headers = request.Headers;
        var now = clock.GetCurrentInstant();
        var address = addresses.Of(connection?.RemoteIpAddress, headers);
        var agent = Cut(headers.UserAgent);
        Span<char> texts = stackalloc char[ReferrerHost.MaxLength + PrimaryLanguage.MaxLength];
        var host = texts[..ReferrerHost.Read(headers.Referer.ToString(), texts)];
        var language = texts[ReferrerHost.MaxLength..][..PrimaryLanguage.Read(headers.AcceptLanguage.ToString(), texts[ReferrerHost.MaxLength..])];
        journal.Append(new Visit
        {
            At = now,
            LinkId = link.Id,
            Kind = kind ?? (IsOffice(domain, address) ? ClickKind.Team : KindByRequest(request)),
            Visitor = VisitorHash.Of(domain.Salts.At(now), domain.Name, address, agent),
            Country = countries.Find(address),
            Hints = ClientHints.Read(headers["Sec-CH-UA-Platform"], headers["Sec-CH-UA-Mobile"]),
            ReferrerHost = host,
            UserAgent = agent,
            Language = language,
        });
    }

    /// <summary>What the request tells that the journal doesn't keep; the user agent is read later, apart from the answer.</summary>
    private static ClickKind KindByRequest(IHttpRequestFeature request)
    {
        var headers = request.Headers;
        return HttpMethods.IsHead(request.Method) ? ClickKind.Head
            : PrefetchSignal.Is(headers["Sec-Purpose"], headers["Purpose"]) || PrefetchSignal.Is(headers["X-Purpose"], headers["X-Moz"]) ? ClickKind.Prefetch
            : ClickKind.Person;
    }

    private static bool IsOffice(DomainEntry domain, IPAddress? address)
    {
        foreach (var network in domain.OfficeNetworks)
        {
            if (address is not null && network.Contains(address))
            {
                return true;
            }
        }

        return false;
    }

    private static ReadOnlySpan<char> Cut(string? agent)
    {
        if (agent is null)
        {
            return "";
        }

        // PostgreSQL takes no zero character in a text; one would hold up every click behind it.
        agent = agent.Replace('\0', ' ');
        return agent.AsSpan(0, Math.Min(agent.Length, Click.MaxUserAgent));
    }
}

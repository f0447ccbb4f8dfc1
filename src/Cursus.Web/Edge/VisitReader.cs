using System.Net;
using Cursus.Core.Clicks;
using Microsoft.AspNetCore.Http.Features;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>Writes down in the click journal what a request tells of its visitor. The network address is used for country and hash and not kept.</summary>
internal sealed class VisitReader(Data.Clicks.ClickJournal journal, ClientAddress addresses, CountryTable countries, IClock clock)
{
    /// <summary>What is known of a visitor in the moment of answering.</summary>
    /// <param name="Kind">As far as the request's headers tell, the user agent apart.</param>
    /// <param name="Hash">The visitor's hash of the day.</param>
    public readonly record struct Visitor(Instant At, ClickKind Kind, long Hash, CountryCode Country);

    /// <summary>Writes one answered visit down.</summary>
    /// <param name="code">Number of the QR code that was scanned; 0 where the address was followed.</param>
    /// <param name="kind">What is known otherwise of who it was; null goes by the request.</param>
    public Visitor Record(IHttpRequestFeature request, IHttpConnectionFeature? connection, DomainEntry domain, in LinkEntry link, byte code, ClickKind? kind)
    {
        var headers = request.Headers;
        var agent = Cut(headers.UserAgent);
        var visitor = Read(request, connection, domain, kind, agent);
        Span<char> texts = stackalloc char[ReferrerHost.MaxLength + PrimaryLanguage.MaxLength];
        var host = texts[..ReferrerHost.Read(headers.Referer.ToString(), texts)];
        var language = texts[ReferrerHost.MaxLength..][..PrimaryLanguage.Read(headers.AcceptLanguage.ToString(), texts[ReferrerHost.MaxLength..])];
        journal.Append(new Visit
        {
            At = visitor.At,
            LinkId = link.Id,
            Kind = visitor.Kind,
            Visitor = visitor.Hash,
            Country = visitor.Country,
            Hints = ClientHints.Read(headers["Sec-CH-UA-Platform"], headers["Sec-CH-UA-Mobile"], headers[ClientHints.Asked]),
            ReferrerHost = host,
            UserAgent = agent,
            Language = language,
            Code = code,
        });
        return visitor;
    }

    /// <summary>The same without writing anything down, for requests that are no clicks.</summary>
    public Visitor Read(IHttpRequestFeature request, IHttpConnectionFeature? connection, DomainEntry domain, ClickKind? kind) =>
        Read(request, connection, domain, kind, Cut(request.Headers.UserAgent));

    private Visitor Read(IHttpRequestFeature request, IHttpConnectionFeature? connection, DomainEntry domain, ClickKind? kind, ReadOnlySpan<char> agent)
    {
        var now = clock.GetCurrentInstant();
        var address = addresses.Of(connection?.RemoteIpAddress, request.Headers);
        return new Visitor(
            now,
            kind ?? (IsOffice(domain, address) ? ClickKind.Team : KindByRequest(request)),
            VisitorHash.Of(domain.Salts.At(now), domain.Name, address, agent),
            countries.Find(address));
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

using System.Net;
using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>Writes down in the click journal what a request tells of its visitor. The network address is used for country and hash and not kept.</summary>
internal sealed class VisitReader(Data.Clicks.ClickJournal journal, ClientAddress addresses, CountryTable countries, IClock clock)
{
    /// <summary>What is known of a visitor in the moment of answering.</summary>
    /// <param name="Kind">As far as the request's headers tell, the user agent apart.</param>
    /// <param name="Hash">The visitor's hash of the day.</param>
    /// <param name="Network">That of the visitor's network.</param>
    public readonly record struct Visitor(Instant At, ClickKind Kind, long Hash, int Network, CountryCode Country, RequestSigns Signs);

    /// <summary>Writes one answered visit down.</summary>
    /// <param name="code">Number of the QR code that was scanned; 0 where the address was followed.</param>
    /// <param name="kind">What is known otherwise of who it was; null goes by the request.</param>
    public Visitor Record(in VisitorHeaders headers, IPAddress? connection, DomainEntry domain, in LinkEntry link, byte code, ClickKind? kind)
    {
        var visitor = Read(headers, connection, domain, kind) with
        {
            Signs = RequestSignsReader.Read(headers.Accept, headers.AcceptLanguage, headers.SecFetchMode, headers.SecChUa, headers.IsSecure),
        };
        Span<char> texts = stackalloc char[ReferrerHost.MaxLength + PrimaryLanguage.MaxLength];
        var host = texts[..ReferrerHost.Read(headers.Referer, texts)];
        var language = texts[ReferrerHost.MaxLength..][..PrimaryLanguage.Read(headers.AcceptLanguage, texts[ReferrerHost.MaxLength..])];
        journal.Append(new Visit
        {
            At = visitor.At,
            LinkId = link.Id,
            Kind = visitor.Kind,
            Visitor = visitor.Hash,
            Country = visitor.Country,
            Hints = ClientHints.Read(headers.Platform, headers.Mobile, headers.FormFactors),
            ReferrerHost = host,
            UserAgent = Cut(headers.UserAgent),
            Language = language,
            Code = code,
            Signs = visitor.Signs,
            Network = visitor.Network,
        });
        return visitor;
    }

    /// <summary>The same without writing anything down, for requests that are no clicks: a page's own, which show none of the signs of a visit.</summary>
    public Visitor Read(in VisitorHeaders headers, IPAddress? connection, DomainEntry domain, ClickKind? kind)
    {
        var now = clock.GetCurrentInstant();
        var address = addresses.Of(connection, headers.ForwardedFor);
        var salt = domain.Salts.At(now);
        return new Visitor(
            now,
            kind ?? (IsOffice(domain, address) ? ClickKind.Team : KindByRequest(headers)),
            VisitorHash.Of(salt, domain.Name, address, Cut(headers.UserAgent)),
            NetworkHash.Of(salt, address),
            countries.Find(address),
            RequestSigns.Untold);
    }

    /// <summary>What the request tells that the journal doesn't keep; the user agent is read later, apart from the answer.</summary>
    private static ClickKind KindByRequest(in VisitorHeaders headers) =>
        headers.IsHead ? ClickKind.Head
            : PrefetchSignal.Is(headers.SecPurpose, headers.Purpose) || PrefetchSignal.Is(headers.XPurpose, headers.XMoz) ? ClickKind.Prefetch
            : ClickKind.Person;

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

    private static ReadOnlySpan<char> Cut(ReadOnlySpan<char> agent) => agent[..Math.Min(agent.Length, Click.MaxUserAgent)];
}

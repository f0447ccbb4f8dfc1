using System.Net;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Edge;

/// <summary>Writes down in the click journal what a request tells of its visitor. The network address is used for country and hash and not
/// kept.</summary>
internal sealed class VisitReader(Data.Clicks.Journaling.ClickJournal journal, ClientAddress addresses, CountryTable countries)
{
    /// <summary>What is known of a visitor in the moment of answering.</summary>
    /// <param name="Kind">As far as the request's headers tell, the user agent apart.</param>
    /// <param name="Hash">The visitor's hash of the day.</param>
    /// <param name="Network">That of the visitor's network.</param>
    public readonly record struct Visitor(Instant At, ClickKind Kind, long Hash, int Network, CountryCode Country, RequestSigns Signs);

    /// <summary>Reads who makes a visit.</summary>
    /// <param name="isTeam">Whether it is known otherwise that it is one of the workspace's own people.</param>
    public Visitor Read(Instant now, in VisitorHeaders headers, IPAddress? connection, DomainEntry domain, bool isTeam) =>
        ReadReport(now, headers, connection, domain, isTeam) with
        {
            Signs = RequestSignsReader.Read(headers.Accept, headers.AcceptLanguage, headers.SecFetchMode, headers.SecChUa, headers.IsSecure),
        };

    /// <summary>The same of requests that are no visits: a page's own, which show none of the signs of a visit.</summary>
    public Visitor ReadReport(Instant now, in VisitorHeaders headers, IPAddress? connection, DomainEntry domain, bool isTeam)
    {
        var address = addresses.Of(connection, headers.ForwardedFor);
        var salt = domain.Salts.At(now);
        return new Visitor(
            now,
            isTeam || IsOffice(domain, address) ? ClickKind.Team : KindByRequest(headers),
            VisitorHash.Of(salt, domain.Name, address, Cut(headers.UserAgent)),
            NetworkHash.Of(salt, address),
            countries.Find(address),
            RequestSigns.Untold
        );
    }

    /// <summary>Writes a visit that is led on down.</summary>
    /// <param name="code">Number of the QR code that was scanned; 0 where the address was followed.</param>
    /// <param name="page">The page that the visitor is led to.</param>
    /// <param name="rule">Number of the rule that decided; 0 where none did.</param>
    public void Record(in Visitor visitor, in VisitorHeaders headers, Guid linkId, byte code, LinkPage page, byte rule = 0)
    {
        Span<char> texts = stackalloc char[ReferrerHost.MaxLength + PrimaryLanguage.MaxLength];
        var host = texts[..ReferrerHost.Read(headers.Referer, texts)];
        var language = texts[ReferrerHost.MaxLength..][..PrimaryLanguage.Read(headers.AcceptLanguage, texts[ReferrerHost.MaxLength..])];
        journal.Append(
            new Visit
            {
                At = visitor.At,
                LinkId = linkId,
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
                Page = (byte)page,
                Rule = rule,
            }
        );
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

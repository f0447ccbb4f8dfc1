using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Core.Clicks;

/// <summary>One answered click, as the journal keeps it until it is shipped. Holds no network address.</summary>
/// <param name="At">When it was answered, UTC, to the millisecond.</param>
/// <param name="LinkId">The link that was followed.</param>
/// <param name="Kind">Who followed it.</param>
/// <param name="Visitor">The visitor's keyed hash of the day; see <see cref="VisitorHash"/>.</param>
/// <param name="Country">Where the visitor's network address belongs; unknown where nobody knows.</param>
/// <param name="Hints">What the browser said of itself beside its user agent.</param>
/// <param name="ReferrerHost">Host of the page that was left, lower case; empty where unknown.</param>
/// <param name="UserAgent">As sent, cut to <see cref="MaxUserAgent"/> characters.</param>
/// <param name="Language">Primary language subtag, lower case; empty where unknown.</param>
/// <param name="Code">Number of the QR code that was scanned; 0 where the address was followed. See <see cref="Codes.ScannedPath"/>.</param>
/// <param name="Signs">What else the request showed.</param>
/// <param name="Page">Number of the page that the visitor was led to: 0 the link's destination, 1 its fallback, others of its route.</param>
/// <param name="Rule">Number of the rule of the link's route that decided; 0 where none did.</param>
/// <param name="Network">The network's keyed hash of the day, see <see cref="NetworkHash"/>; 0 where untold. Only in the journal, never in the
/// database.</param>
public readonly record struct Click(
    Instant At,
    Guid LinkId,
    ClickKind Kind,
    long Visitor,
    CountryCode Country,
    ClientHints Hints,
    string ReferrerHost,
    string UserAgent,
    string Language,
    byte Code = 0,
    RequestSigns Signs = RequestSigns.Untold,
    int Network = 0,
    byte Page = 0,
    byte Rule = 0
)
{
    /// <summary>User agents are kept to this many characters; longer ones are rare and say nothing more.</summary>
    public const int MaxUserAgent = 400;

    /// <summary>The same as the edge tells it.</summary>
    public Visit ToVisit() =>
        new()
        {
            At = At,
            LinkId = LinkId,
            Kind = Kind,
            Visitor = Visitor,
            Country = Country,
            Hints = Hints,
            ReferrerHost = ReferrerHost,
            UserAgent = UserAgent,
            Language = Language,
            Code = Code,
            Signs = Signs,
            Network = Network,
            Page = Page,
            Rule = Rule,
        };
}

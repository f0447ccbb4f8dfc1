using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Core.Clicks;

/// <summary>What the edge tells of a visitor in the moment of answering: texts still in the request, nothing copied. A <see cref="Click"/> is the
/// same once it is read from the journal.</summary>
public readonly ref struct Visit
{
    public Instant At { get; init; }
    public Guid LinkId { get; init; }
    public ClickKind Kind { get; init; }
    public long Visitor { get; init; }
    public CountryCode Country { get; init; }
    public ClientHints Hints { get; init; }

    /// <summary>Lower case; empty where unknown.</summary>
    public ReadOnlySpan<char> ReferrerHost { get; init; }

    /// <summary>At most <see cref="Click.MaxUserAgent"/> characters.</summary>
    public ReadOnlySpan<char> UserAgent { get; init; }

    /// <summary>Lower case; empty where unknown.</summary>
    public ReadOnlySpan<char> Language { get; init; }

    /// <summary>Number of the QR code that was scanned; 0 where the address was followed.</summary>
    public byte Code { get; init; }

    public RequestSigns Signs { get; init; }

    /// <summary>The network's keyed hash of the day; 0 where untold.</summary>
    public int Network { get; init; }

    /// <summary>Number of the page that the visitor was led to; see <see cref="Links.LinkPage"/>.</summary>
    public byte Page { get; init; }

    /// <summary>Number of the rule of the link's route that decided; 0 where none did.</summary>
    public byte Rule { get; init; }
}

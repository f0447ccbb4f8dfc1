using NodaTime;

namespace Cursus.Core.Checking;

/// <summary>When the certificate of a short domain needs care.</summary>
public static class CertificateCare
{
    /// <summary>Certificates that are renewed by themselves are so long before this (common practice, no source).</summary>
    public static readonly Duration Ahead = Duration.FromDays(14);

    /// <summary>Gap to the next look at a certificate.</summary>
    public static readonly Duration EachLook = Duration.FromHours(12);

    /// <summary>Whether it ends within fourteen days, or has ended.</summary>
    public static bool EndsSoon(Instant endsAt, Instant now) => endsAt <= now + Ahead;
}

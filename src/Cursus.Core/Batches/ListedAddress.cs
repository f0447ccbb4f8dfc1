using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Batches;

/// <summary>A short address as lists of other programs have it, whole, taken apart.</summary>
/// <param name="Host">Lower-case ASCII, without port.</param>
/// <param name="Slug">As written; whether it is one that Cursus takes is another question.</param>
public sealed record ListedAddress(string Host, string Slug)
{
    /// <summary>Takes an address with or without its scheme; null where there is no host or no slug in it. Query, fragment and a slash at the end say
    /// nothing.</summary>
    public static ListedAddress? Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var trimmed = text.Trim();
        var address = WebAddress.Parse(trimmed.Contains("://", StringComparison.Ordinal) ? trimmed : "https://" + trimmed, @base: null, out _);
        var slug = address?.Path.Trim('/') ?? "";
        return slug.Length == 0 ? null : new ListedAddress(address!.Host, slug);
    }
}

using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Addresses;

/// <summary>A first guess at what a page is called.</summary>
public static class PageTitle
{
    /// <summary>The words of the last part of the path, or the host where the path is bare:
    /// <c>/events/geminids-night</c> becomes "Geminids night".</summary>
    public static string FromAddress(WebAddress address)
    {
        var last = PercentEncoding.Decode(address.Path.TrimEnd('/').Split('/')[^1]);
        var dot = last.LastIndexOf('.');
        var words = (dot > 0 ? last[..dot] : last).Replace('-', ' ').Replace('_', ' ').Replace('+', ' ').Trim();
        return words.Length == 0 ? address.Host : char.ToUpperInvariant(words[0]) + words[1..];
    }
}

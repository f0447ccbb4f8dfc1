using System.Diagnostics.CodeAnalysis;
using System.Text.RegularExpressions;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Addresses;

/// <summary>Where a link leads: the address as the marketer entered it, and the same address as a browser reads it.</summary>
public sealed partial record Destination
{
    /// <summary>The longest address that is taken, in characters.</summary>
    public const int MaxLength = 8192;

    /// <summary>Space, and the control characters that the URL Standard strips from both ends.</summary>
    private static readonly char[] Around = [.. Enumerable.Range(0, ' ' + 1).Select(c => (char)c)];

    private Destination(string asEntered, WebAddress address) => (AsEntered, Address) = (asEntered, address);

    /// <summary>As it was given, but for space around it.</summary>
    public string AsEntered { get; }

    public WebAddress Address { get; }

    /// <summary>Reads an address and changes nothing in it but space and control characters around it, which the URL Standard takes away as well. A
    /// missing scheme becomes https, and http on <c>.localhost</c> names, which have no certificates (RFC 6761, section 6.3).</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out Destination? destination, [NotNullWhen(false)] out ValidationError? error)
    {
        destination = null;
        var entered = (text ?? "").Trim(Around);
        error = entered.Length switch
        {
            0 => AddressErrors.Missing,
            > MaxLength => AddressErrors.TooLong,
            _ => null,
        };
        if (error is not null)
        {
            return false;
        }

        if (WebAddress.Parse(WithScheme(entered), @base: null, out error) is not { } address)
        {
            error ??= AddressErrors.NotAnAddress;
            return false;
        }

        // A single word is no page of anybody's; it is a search term pasted by mistake.
        if (!address.Host.Contains('.', StringComparison.Ordinal) && address.Host is not "localhost" && !address.Host.StartsWith('['))
        {
            error = AddressErrors.NotAnAddress;
            return false;
        }

        destination = new Destination(entered, address);
        error = null;
        return true;
    }

    /// <summary>A destination that is known to be good, such as one that was saved.</summary>
    /// <exception cref="ArgumentException">It is not good after all.</exception>
    public static Destination Of(string text) =>
        TryParse(text, out var destination, out var error) ? destination : throw new ArgumentException(error.Text, nameof(text));

    /// <summary>The finished address: this destination with the <paramref name="tags"/> written into its query.</summary>
    public WebAddress With(UtmTags tags) => tags.WriteInto(Address);

    /// <summary>The finished address of a link that may have no tags.</summary>
    public WebAddress FinishedWith(UtmTags? tags) => tags is null ? Address : With(tags);

    private static string WithScheme(string entered)
    {
        var startsWithHost = !AnyScheme().IsMatch(entered) || HostAndPort().IsMatch(entered);
        if (!startsWithHost)
        {
            return entered;
        }

        var host = HostPart().Match(entered).Value;
        return (host.EndsWith("localhost", StringComparison.OrdinalIgnoreCase) ? "http://" : "https://") + entered.TrimStart('/');
    }

    [GeneratedRegex(@"\A[A-Za-z][A-Za-z0-9+.\-]*:")]
    private static partial Regex AnyScheme();

    /// <summary>"www.example.org:8080/…" looks like a scheme, but a scheme is not followed by digits alone.</summary>
    [GeneratedRegex(@"\A(localhost|[^:/?#@]*\.[^:/?#@]*):\d*([/?#]|\z)", RegexOptions.IgnoreCase)]
    private static partial Regex HostAndPort();

    [GeneratedRegex(@"\A/*[^:/?#]*")]
    private static partial Regex HostPart();
}

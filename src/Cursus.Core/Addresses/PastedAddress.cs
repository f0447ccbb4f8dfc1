using System.Text.RegularExpressions;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Addresses;

/// <summary>Frees a pasted address from what copying and mailing leave around it. An address that is valid as it stands is never changed: nobody can
/// tell a full stop of the sentence from one of the address.</summary>
public static partial class PastedAddress
{
    private static readonly (char Open, char Close)[] Pairs = [('(', ')'), ('[', ']'), ('{', '}')];

    /// <summary>
    /// The address in a pasted text: without surrounding space, invisible characters, quotes, brackets or the punctuation of the sentence it stood
    /// in; joined again where a mailer broke its lines; taken out of <c>&lt;URL:…&gt;</c> (RFC 3986, appendix C) and of a Markdown link.
    /// </summary>
    public static string Clean(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        if (text.Trim() is var whole && IsValid(whole))
        {
            return whole;
        }

        var address = Invisible().Replace(text, "").Replace('\u00a0', ' ').Trim();
        if (MarkdownLink().Match(address) is { Success: true } link)
        {
            address = link.Groups[1].Value;
        }

        address = QuotedPrintableBreak().Replace(address, "");
        address = LineBreak().Replace(address, "");
        address = Delimited().Match(address) is { Success: true } delimited ? delimited.Groups[1].Value : address;
        address = UrlPrefix().Replace(address, "");
        address = SpaceInHost().Replace(address, m => m.Value.Replace(" ", "", StringComparison.Ordinal));
        return WithoutSentence(EscapedAmpersand().Replace(address, "&"));
    }

    /// <summary>Whether it is one web address with its scheme, as browsers read it, and without any space.</summary>
    private static bool IsValid(string text) => Web().IsMatch(text) && WebAddress.Parse(text, @base: null, out _) is not null;

    /// <summary>Takes closing punctuation away, but a bracket only where its partner is missing: <c>/wiki/Sirius_(star)</c> keeps its own.</summary>
    private static string WithoutSentence(string address)
    {
        address = address.TrimStart('"', '\'', '«', '“', '‘', '(', '<', '>', '*', '|', ' ');
        while (address.Length > 1)
        {
            var last = address[^1];
            var opens = Array.Find(Pairs, p => p.Close == last).Open;
            var isPunctuation =
                ".,;:!?'\"<>»”’…*".Contains(last, StringComparison.Ordinal)
                || (opens != default && address.Count(c => c == last) > address.Count(c => c == opens));
            if (!isPunctuation && last != ' ')
            {
                break;
            }

            address = address[..^1];
        }

        return address;
    }

    [GeneratedRegex(@"\Ahttps?://\S+\z", RegexOptions.IgnoreCase)]
    private static partial Regex Web();

    /// <summary>Zero-width characters, direction marks and the byte order mark.</summary>
    [GeneratedRegex(@"[\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]")]
    private static partial Regex Invisible();

    [GeneratedRegex(@"\A\[[^\]\n]*\]\((\S+)\)\z")]
    private static partial Regex MarkdownLink();

    /// <summary>A soft line break of quoted-printable mail (RFC 2045, section 6.7).</summary>
    [GeneratedRegex(@"=\r?\n")]
    private static partial Regex QuotedPrintableBreak();

    /// <summary>A line's end with the next line's indentation and quoting marks.</summary>
    [GeneratedRegex(@"[ \t]*[\r\n]+[ \t>|]*|\t+")]
    private static partial Regex LineBreak();

    /// <summary>What stands between angle brackets, unless an address begins before them.</summary>
    [GeneratedRegex(@"\A(?!\s*https?://)[^<]*<\s*([^<>]+?)\s*>[^>]*\z", RegexOptions.IgnoreCase)]
    private static partial Regex Delimited();

    [GeneratedRegex(@"\AURL:\s*(?=\S)", RegexOptions.IgnoreCase)]
    private static partial Regex UrlPrefix();

    [GeneratedRegex(@"\A(https?\s*:\s*/\s*/)?[^/?#]*", RegexOptions.IgnoreCase)]
    private static partial Regex SpaceInHost();

    [GeneratedRegex(@"&amp;(?=[A-Za-z_][A-Za-z0-9_\-]*=)")]
    private static partial Regex EscapedAmpersand();
}

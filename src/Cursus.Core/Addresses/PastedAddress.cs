using System.Text.RegularExpressions;

namespace Cursus.Core.Addresses;

/// <summary>Frees an address from what copying and mailing leave around it. What stands in the address itself is not touched.</summary>
public static partial class PastedAddress
{
    private static readonly (char Open, char Close)[] Pairs = [('(', ')'), ('[', ']'), ('{', '}')];

    /// <summary>
    /// The address in a pasted text: without surrounding space, invisible characters, quotes, brackets or the punctuation of the sentence it stood in;
    /// joined again where a mailer broke its lines; taken out of <c>&lt;URL:…&gt;</c> (RFC 3986, appendix C) and of a Markdown link.
    /// </summary>
    public static string Clean(string text)
    {
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

    /// <summary>Takes closing punctuation away, but a bracket only where its partner is missing: <c>/wiki/Sirius_(star)</c> keeps its own.</summary>
    private static string WithoutSentence(string address)
    {
        address = address.TrimStart('"', '\'', '«', '“', '‘', '(', '<', '>', '*', '|', ' ');
        while (address.Length > 1)
        {
            var last = address[^1];
            var opens = Array.Find(Pairs, p => p.Close == last).Open;
            var isPunctuation = ".,;:!?'\"<>»”’…*".Contains(last, StringComparison.Ordinal)
                || (opens != default && address.Count(c => c == last) > address.Count(c => c == opens));
            if (!isPunctuation && last != ' ')
            {
                break;
            }

            address = address[..^1];
        }

        return address;
    }

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

    [GeneratedRegex(@"\A[^<]*<\s*([^<>]+?)\s*>[^>]*\z")]
    private static partial Regex Delimited();

    [GeneratedRegex(@"\AURL:\s*(?=\S)", RegexOptions.IgnoreCase)]
    private static partial Regex UrlPrefix();

    [GeneratedRegex(@"\A(https?\s*:\s*/\s*/)?[^/?#]*", RegexOptions.IgnoreCase)]
    private static partial Regex SpaceInHost();

    [GeneratedRegex(@"&amp;(?=[A-Za-z_][A-Za-z0-9_\-]*=)")]
    private static partial Regex EscapedAmpersand();
}

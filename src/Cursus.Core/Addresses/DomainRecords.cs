using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Addresses;

/// <summary>One DNS record that a short domain needs.</summary>
/// <param name="Type"><c>A</c>, <c>CNAME</c> or <c>TXT</c>.</param>
/// <param name="Name">Full name without the root's dot.</param>
/// <param name="Values">What it must say; several for a set of A records.</param>
public sealed record DomainRecord(string Type, string Name, IReadOnlyList<string> Values);

/// <summary>What a lookup of the domain's names brought.</summary>
/// <param name="Addresses">IPv4 addresses, those behind an alias included.</param>
/// <param name="SixAddresses">IPv6 addresses.</param>
/// <param name="Alias">Target of a CNAME, if there is one.</param>
/// <param name="Texts">TXT values at the proof's name.</param>
public sealed record DomainAnswers(IReadOnlyList<string> Addresses, IReadOnlyList<string> SixAddresses, string? Alias, IReadOnlyList<string> Texts);

/// <summary>One record compared with what was found.</summary>
/// <param name="Found">What DNS says now.</param>
/// <param name="Text">What that means and what to do.</param>
public sealed record DomainFinding(string Type, string Name, IReadOnlyList<string> Expected, IReadOnlyList<string> Found, bool IsGood, string Text);

/// <summary>Which records make a short domain lead here, and whether they do.</summary>
public static class DomainRecords
{
    /// <summary>Time to live to enter, in seconds: long enough to spare lookups, short enough to correct a slip within the hour (common practice, no
    /// source).</summary>
    public const int TimeToLive = 3600;

    /// <summary>Label under which the proof of ownership stands; an underscore keeps it apart from host names (RFC 8552).</summary>
    public const string ProofLabel = "_cursus";

    /// <summary>The records to make: an apex needs addresses, since it cannot be an alias (RFC 1034, section 3.6.2); a subdomain is an alias of the
    /// edge.</summary>
    public static IReadOnlyList<DomainRecord> Needed(string name, string proof, string? edgeHost, IReadOnlyList<string> edgeAddresses)
    {
        var text = new DomainRecord("TXT", $"{ProofLabel}.{name}", [ProofText(proof)]);
        return PublicSuffix.IsApex(name) || edgeHost is null
            ? [new DomainRecord("A", name, edgeAddresses), text]
            : [new DomainRecord("CNAME", name, [edgeHost]), text];
    }

    public static string ProofText(string proof) => "cursus-proof=" + proof;

    /// <summary>Each needed record with what was found. A subdomain may have the edge's addresses instead of the alias.</summary>
    public static IReadOnlyList<DomainFinding> Judge(
        IReadOnlyList<DomainRecord> needed,
        DomainAnswers answers,
        IReadOnlyList<string> edgeAddresses
    ) =>
        [
            .. needed.Select(record =>
                record.Type switch
                {
                    "TXT" => Proof(record, answers),
                    "CNAME" => Alias(record, answers, edgeAddresses),
                    _ => Addresses(record, answers),
                }
            ),
        ];

    private static DomainFinding Proof(DomainRecord record, DomainAnswers answers)
    {
        var isGood = answers.Texts.Contains(record.Values[0]);
        return new DomainFinding(
            "TXT",
            record.Name,
            record.Values,
            answers.Texts,
            isGood,
            isGood ? "Proves that the domain is yours."
                : answers.Texts.Count == 0 ? "Not found yet. Add this text at your registrar to prove that the domain is yours."
                : "There is a different text here. Add this one as well, or correct it."
        );
    }

    private static DomainFinding Alias(DomainRecord record, DomainAnswers answers, IReadOnlyList<string> edgeAddresses)
    {
        var target = record.Values[0];
        if (answers.Alias is { } alias)
        {
            var isGood = alias.Equals(target, StringComparison.OrdinalIgnoreCase);
            return new DomainFinding(
                "CNAME",
                record.Name,
                record.Values,
                [alias],
                isGood,
                isGood ? "Leads here." : $"Points to {alias}. Change the record’s target to {target}."
            );
        }

        var leadsHere = answers.Addresses.Count > 0 && answers.Addresses.All(edgeAddresses.Contains) && answers.SixAddresses.Count == 0;
        return new DomainFinding(
            "CNAME",
            record.Name,
            record.Values,
            [.. answers.Addresses, .. answers.SixAddresses],
            leadsHere,
            leadsHere ? "Points here by its address records."
                : answers.Addresses.Count + answers.SixAddresses.Count == 0 ? $"Not found yet. Add a CNAME record from this name to {target}."
                : $"Has address records. Remove them, then add a CNAME record to {target}."
        );
    }

    private static DomainFinding Addresses(DomainRecord record, DomainAnswers answers)
    {
        string[] found = [.. answers.Addresses, .. answers.SixAddresses];
        var missing = record.Values.Except(answers.Addresses).ToList();
        var foreign = found.Except(record.Values).ToList();
        var text = (missing.Count, foreign.Count) switch
        {
            (0, 0) => "Leads here.",
            (0, _) => $"Points here, but also to {string.Join(" and ", foreign)}, where your links don’t work. Remove that.",
            (_, 0) when found.Length == 0 => "Not found yet. Add one record for each address.",
            (_, 0) => $"One is missing: add {string.Join(" and ", missing)}.",
            _ => $"Points to {string.Join(" and ", foreign)}. Replace that with {string.Join(" and ", missing)}.",
        };
        return new DomainFinding("A", record.Name, record.Values, found, missing.Count == 0 && foreign.Count == 0 && record.Values.Count > 0, text);
    }
}

using System.Collections.Frozen;
using Cursus.Core.Addresses;

namespace Cursus.Core.Clicks.Requests;

/// <summary>What is known everywhere of a host that visitors came from: <c>Referrers/sites.txt</c>. A workspace may know better.</summary>
/// <param name="Kind">What sort of place it is.</param>
/// <param name="Network">The network's name; the host where it belongs to none that is known.</param>
public sealed record ReferrerSite(SiteKind Kind, string Network)
{
    private static readonly FrozenDictionary<string, ReferrerSite> Known = WordList
        .Read("sites.txt")
        .Select(line => line.Split('\t'))
        .ToFrozenDictionary(parts => parts[0], parts => new ReferrerSite(Enum.Parse<SiteKind>(parts[1], ignoreCase: true), parts[2]));

    private static readonly FrozenDictionary<string, ReferrerSite> Networks = Known
        .Values.DistinctBy(s => s.Network, StringComparer.OrdinalIgnoreCase)
        .ToFrozenDictionary(s => s.Network, StringComparer.OrdinalIgnoreCase);

    /// <param name="host">As <see cref="ReferrerHost"/> reads it; what is known of a host holds for all names below it.</param>
    public static ReferrerSite Of(string host)
    {
        ArgumentNullException.ThrowIfNull(host);
        for (var name = host; name.Length > 0; name = Parent(name))
        {
            if (Known.TryGetValue(name, out var site))
            {
                return site;
            }
        }

        return new ReferrerSite(host.Length == 0 ? SiteKind.None : SiteKind.Other, host);
    }

    /// <summary>The site of a known network by the network’s name, in any case; null where there is none.</summary>
    public static ReferrerSite? OfNetwork(string name) => Networks.GetValueOrDefault(name);

    private static string Parent(string name) => name.IndexOf('.', StringComparison.Ordinal) is var dot and >= 0 ? name[(dot + 1)..] : "";
}

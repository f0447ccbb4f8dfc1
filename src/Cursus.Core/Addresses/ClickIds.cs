using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Addresses;

/// <summary>Leftovers in a pasted address that belong to the one visit it was copied from (names in <c>Words/click-ids.txt</c>).</summary>
public static class ClickIds
{
    private static readonly HashSet<string> Names = new(WordList.Read("click-ids.txt"), StringComparer.OrdinalIgnoreCase);

    /// <summary>Names of such parameters in the address, in order.</summary>
    public static IReadOnlyList<string> In(WebAddress address) =>
        [.. QueryParameter.Of(address).Select(QueryParameter.NameOf).Where(Names.Contains).Distinct()];

    /// <summary>The address without them; everything else stays as it is.</summary>
    public static WebAddress Strip(WebAddress address)
    {
        if (In(address).Count == 0)
        {
            return address;
        }

        var kept = string.Join('&', QueryParameter.Of(address).Where(p => !Names.Contains(QueryParameter.NameOf(p))));
        return address with { Query = kept.Length == 0 ? null : kept };
    }
}

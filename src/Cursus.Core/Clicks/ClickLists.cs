using System.Security.Cryptography;

namespace Cursus.Core.Clicks;

/// <summary>The lists by which clicks are read: crawlers, browsers, sites. Each is a file that can be replaced by a newer one.</summary>
public static class ClickLists
{
    /// <summary>Changes whenever a list does, or a rule by which they are read; what was read by another state is to be read anew.</summary>
    public static string State { get; } =
        string.Join('.', new[] { "5" }.Concat(new[] { "crawlers.txt", "browsers.yaml", "sites.txt" }.Select(Fingerprint)));

    private static string Fingerprint(string name)
    {
        using var file = typeof(ClickLists).Assembly.GetManifestResourceStream(name)
            ?? throw new InvalidOperationException($"The list {name} is missing from the build.");
        return Convert.ToHexStringLower(SHA256.HashData(file))[..8];
    }
}

using System.Net;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Clicks;
using MaxMind.Db;

namespace Cursus.Edge;

/// <summary>Reads the files that say which country a network belongs to: MaxMind DBs with <c>country_code</c> beside each network.</summary>
internal static class CountryFiles
{
    /// <summary>The networks of all files of a folder, each file asked in the order of their names until one knows. Networks that nobody can come
    /// from (<see cref="PrivateNetwork"/>) have no country, whatever registries say. None where there is none, and then no click has a
    /// country.</summary>
    public static CountryTable Read(string folder, ILogger log)
    {
        folder = Path.Combine(AppContext.BaseDirectory, folder);
        var files = Directory.Exists(folder) ? [.. Directory.GetFiles(folder, "*.mmdb").Order(StringComparer.Ordinal)] : Array.Empty<string>();
        if (files.Length == 0)
        {
            log.LogWarning("There is no *.mmdb in {Folder}, so that clicks will have no country. Put MaxMind DBs of countries there.", folder);
        }

        return files
            .AsParallel()
            .AsOrdered()
            .Select(file => TryRead(file, log))
            .ToList()
            .Aggregate(CountryTable.Empty, (known, next) => known.Else(next))
            .Without(PrivateNetwork.Networks);
    }

    /// <summary>A file that can't be read is passed over: clicks without a country are better than none.</summary>
    private static CountryTable TryRead(string file, ILogger log)
    {
        try
        {
            return new CountryTable(Networks(file));
        }
        catch (Exception e)
            when (e
                    is InvalidDatabaseException
                        or DeserializationException
                        or IOException
                        or UnauthorizedAccessException
                        or InvalidDataException
                        or ArgumentException
                        or InvalidOperationException
                        or OverflowException
            )
        {
            log.LogError("{File} can’t be read and is passed over, so that fewer clicks have a country: {Reason}", file, e.Message);
            return CountryTable.Empty;
        }
    }

    private static IEnumerable<(IPAddress First, int PrefixLength, CountryCode Country)> Networks(string path)
    {
        using var reader = new Reader(path, FileAccessMode.Memory);
        foreach (var node in reader.FindAll<Dictionary<string, object>>(cacheSize: 1024))
        {
            var (first, prefixLength) = Plain(node.Start, node.PrefixLength);
            yield return (first, prefixLength, CountryCode.Of(node.Data.TryGetValue("country_code", out var code) ? code as string : ""));
        }
    }

    /// <summary>Files that hold both kinds of addresses keep IPv4 in the first corner of IPv6.</summary>
    private static (IPAddress First, int PrefixLength) Plain(IPAddress first, int prefixLength)
    {
        var bytes = first.GetAddressBytes();
        return bytes.Length == 16 && prefixLength >= 96 && bytes.AsSpan(0, 12).IndexOfAnyExcept((byte)0) < 0
            ? (new IPAddress(bytes.AsSpan(12)), prefixLength - 96)
            : (first, prefixLength);
    }
}

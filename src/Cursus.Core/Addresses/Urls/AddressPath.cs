namespace Cursus.Core.Addresses.Urls;

/// <summary>Paths of http(s) addresses: dot segments are resolved, backslashes are slashes (WHATWG URL Standard, section 4.4, "path
/// state").</summary>
internal static class AddressPath
{
    /// <summary>The segments of a path without its last: where a relative reference starts from (RFC 3986, section 5.2.3).</summary>
    public static IEnumerable<string> FolderOf(string path) => path.Split('/')[1..^1];

    /// <summary>Appends the raw <paramref name="path"/> to the <paramref name="folder"/>'s segments and resolves "." and "..".</summary>
    public static string Normalise(IEnumerable<string> folder, string path)
    {
        var segments = folder.ToList();
        var raw = (path is ['/' or '\\', ..] ? path[1..] : path).Split('/', '\\');
        for (var i = 0; i < raw.Length; i++)
        {
            var isLast = i == raw.Length - 1;
            switch (raw[i].Replace("%2e", ".", StringComparison.OrdinalIgnoreCase))
            {
                case "..":
                    if (segments.Count > 0)
                    {
                        segments.RemoveAt(segments.Count - 1);
                    }

                    if (isLast)
                    {
                        segments.Add("");
                    }

                    break;
                case ".":
                    if (isLast)
                    {
                        segments.Add("");
                    }

                    break;
                default:
                    segments.Add(PercentEncoding.Path(raw[i]));
                    break;
            }
        }

        return "/" + string.Join('/', segments);
    }
}

using System.Globalization;

namespace Cursus.Core.Codes;

/// <summary>The path of a short address as it is asked for: a slug, and behind it the number of the code that was scanned, as <c>/winter/2</c>.
/// Nothing of the number reaches the destination.</summary>
public static class ScannedPath
{
    /// <summary>The code that each link has without further ado.</summary>
    public const int OwnCode = 1;

    /// <summary>So many codes may be made for one link.</summary>
    public const int MostCodes = 250;

    /// <summary>Takes a path apart.</summary>
    /// <param name="path">Without slashes at its ends.</param>
    /// <returns>The slug and the code's number, 0 for a click; the path as it is where it ends with no code's number.</returns>
    public static Parts Read(ReadOnlySpan<char> path)
    {
        var slash = path.LastIndexOf('/');
        return
            slash > 0
            && path.Length - slash is > 1 and <= 4
            && path[slash + 1] != '0'
            && int.TryParse(path[(slash + 1)..], NumberStyles.None, CultureInfo.InvariantCulture, out var code)
            && code is >= OwnCode and <= MostCodes
            ? new Parts(path[..slash], (byte)code)
            : new Parts(path, 0);
    }

    public readonly ref struct Parts(ReadOnlySpan<char> slug, byte code)
    {
        public ReadOnlySpan<char> Slug { get; } = slug;

        public byte Code { get; } = code;
    }
}

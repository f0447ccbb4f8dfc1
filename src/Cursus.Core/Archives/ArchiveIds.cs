using System.Security.Cryptography;
using System.Text.RegularExpressions;

namespace Cursus.Core.Archives;

/// <summary>
/// Gives what an archive brings its place in a workspace: ids that stand in its lines, in whatever column or text, are replaced. Into an installation
/// that knows none of them everything keeps its id; elsewhere each gets a new one, always the same for the same workspace, in the order of the old
/// ones.
/// </summary>
public sealed partial class ArchiveIds
{
    private readonly Guid from;
    private readonly Guid into;
    private readonly IReadOnlySet<Guid> known;
    private readonly IReadOnlyDictionary<Guid, Guid?> members;
    private readonly bool isKept;

    /// <param name="from">The workspace that the archive was made of.</param>
    /// <param name="into">The one it is imported into.</param>
    /// <param name="known">All ids that the archive brings.</param>
    /// <param name="members">Members of the old workspace, and who they are in the new one; null for those who aren't there.</param>
    /// <param name="isKept">Whether everything keeps its id.</param>
    public ArchiveIds(Guid from, Guid into, IReadOnlySet<Guid> known, IReadOnlyDictionary<Guid, Guid?> members, bool isKept) =>
        (this.from, this.into, this.known, this.members, this.isKept) = (from, into, known, members, isKept);

    /// <summary>A line with its ids replaced. Members who aren't there become null.</summary>
    public string Place(string line) =>
        Id()
            .Replace(line, found =>
            {
                var isValue = found.Value is ['"', .., '"'];
                var id = Guid.ParseExact(found.Value.AsSpan().Trim('"'), "D");
                return members.TryGetValue(id, out var member) ? (member is null && isValue ? "null" : Written(found.Value, member ?? id))
                    : id == from ? Written(found.Value, into)
                    : isKept || !known.Contains(id) ? found.Value
                    : Written(found.Value, New(id));
            });

    /// <summary>The first half of an id tells when it was made (RFC 9562, section 5.7) and stays; the second follows from the workspace.</summary>
    public Guid New(Guid old)
    {
        Span<byte> bytes = stackalloc byte[32],
            hash = stackalloc byte[32];
        into.TryWriteBytes(bytes, bigEndian: true, out _);
        old.TryWriteBytes(bytes[16..], bigEndian: true, out _);
        SHA256.HashData(bytes, hash);
        hash[..8].CopyTo(bytes[24..]);
        bytes[24] = (byte)((bytes[24] & 0x3f) | 0x80);
        return new Guid(bytes[16..], bigEndian: true);
    }

    private static string Written(string found, Guid id) =>
        found.Length > 36 ? (found[0] == '"' ? "\"" : "") + id.ToString("D") + (found[^1] == '"' ? "\"" : "") : id.ToString("D");

    [GeneratedRegex("\"?[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}\"?")]
    private static partial Regex Id();
}

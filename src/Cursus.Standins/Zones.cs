using System.Collections.Concurrent;

namespace Cursus.Standins;

/// <summary>One DNS record. An <c>A</c> holds an IPv4 address, a <c>CNAME</c> a host name, a <c>TXT</c> any text.</summary>
internal sealed record ZoneRecord(Guid Id, string Type, string Name, string Value);

/// <summary>The zones that the registrar keeps and its name server answers from. Gone when the process ends, as the rest of this world.</summary>
internal sealed class Zones
{
    private readonly ConcurrentDictionary<Guid, ZoneRecord> records = new();

    public Zones()
    {
        // A domain that was bought and left on the registrar's parking page.
        Add("A", "visit-northmoor.example", "192.0.2.80");
    }

    public static readonly IReadOnlyList<string> Types = ["A", "CNAME", "TXT"];

    public static readonly IReadOnlyList<string> Domains = ["visit-northmoor.example", "northmoor.example"];

    public IEnumerable<ZoneRecord> All =>
        records
            .Values.OrderBy(r => r.Name, StringComparer.Ordinal)
            .ThenBy(r => r.Type, StringComparer.Ordinal)
            .ThenBy(r => r.Value, StringComparer.Ordinal);

    public IEnumerable<ZoneRecord> At(string name) => All.Where(r => r.Name.Equals(name, StringComparison.OrdinalIgnoreCase));

    /// <summary>Whether the registrar keeps the zone that this name belongs to.</summary>
    public static bool Keeps(string name) =>
        Domains.Any(d => name.Equals(d, StringComparison.OrdinalIgnoreCase) || name.EndsWith("." + d, StringComparison.OrdinalIgnoreCase));

    public void Add(string type, string name, string value)
    {
        var record = new ZoneRecord(Guid.NewGuid(), type, name.Trim().TrimEnd('.').ToLowerInvariant(), value.Trim().Trim('"'));
        records[record.Id] = record;
    }

    public void Remove(Guid id) => records.TryRemove(id, out _);
}

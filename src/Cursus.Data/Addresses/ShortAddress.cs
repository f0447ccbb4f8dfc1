using Cursus.Core.Addresses;

namespace Cursus.Data.Addresses;

/// <summary>An address on a short domain, with what it leads to. Its key is what keeps all kinds of targets from having the same address; the
/// database writes it itself, when links and former addresses come and go (<c>Schema/functions.sql</c>).</summary>
public sealed class ShortAddress
{
    public Guid DomainId { get; init; }

    /// <summary>The slug in lower case.</summary>
    public required string SlugKey { get; init; }

    public AddressKind Kind { get; init; }

    /// <summary>Id of the link.</summary>
    public Guid TargetId { get; init; }
}

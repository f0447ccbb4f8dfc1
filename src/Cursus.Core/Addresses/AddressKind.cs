namespace Cursus.Core.Addresses;

/// <summary>What a short address leads to.</summary>
public enum AddressKind : short
{
    /// <summary>A link whose present address it is.</summary>
    Link = 0,

    /// <summary>A link that had this address before.</summary>
    FormerLink = 1,
}

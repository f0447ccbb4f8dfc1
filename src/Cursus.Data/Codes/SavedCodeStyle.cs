using NodaTime;

namespace Cursus.Data.Codes;

/// <summary>A look of QR codes that a workspace keeps under a name.</summary>
public sealed class SavedCodeStyle
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }

    /// <summary>The <see cref="Core.Codes.CodeStyle"/>, as the API writes it.</summary>
    public required string Style { get; set; }

    /// <summary>The logo in it.</summary>
    public Guid? LogoId { get; set; }

    /// <summary>True for the one used by links without a style of their own.</summary>
    public bool IsDefault { get; set; }

    public Instant CreatedAt { get; init; }
}

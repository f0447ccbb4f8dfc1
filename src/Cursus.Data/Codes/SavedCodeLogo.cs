using NodaTime;

namespace Cursus.Data.Codes;

/// <summary>A logo for QR codes: a picture, or shapes.</summary>
public sealed class SavedCodeLogo
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; init; }
    public double Width { get; init; }
    public double Height { get; init; }

    /// <summary>The picture as PNG; null where it is made of shapes.</summary>
    public byte[]? Png { get; init; }

    /// <summary>List of <see cref="Core.Codes.LogoShape"/>.</summary>
    public required string Shapes { get; init; }

    public Instant CreatedAt { get; init; }
}

using Cursus.Core.Retargeting;

namespace Cursus.Core.Codes;

/// <summary>How a module is drawn.</summary>
public enum ModuleShape
{
    Square,

    /// <summary>Squares with soft corners, each on its own.</summary>
    Rounded,
    Dots,

    /// <summary>Neighbours grow together; only what sticks out is round.</summary>
    Connected,
}

/// <summary>How the ring and centre of the three corner patterns are drawn.</summary>
public enum CornerShape
{
    Square,
    Soft,
    Round,
}

/// <summary>Which way a gradient runs.</summary>
public enum GradientCourse
{
    Across,
    Down,
    Outward,
}

/// <summary>Position of the frame's text.</summary>
public enum FrameShape
{
    /// <summary>Under the code, without a line.</summary>
    Under,

    /// <summary>A line around the code, and the words in a band below.</summary>
    Around,
}

/// <summary>The second colour of a code's ink.</summary>
public sealed record CodeGradient(string To, GradientCourse Course);

/// <summary>A picture in the middle of a code.</summary>
/// <param name="Id">The workspace's logo.</param>
/// <param name="Percent">Its longer side as a percentage of the code's width.</param>
/// <param name="Margin">Empty modules around it.</param>
/// <param name="KnocksOut">True if modules under it and its margin are left out, false if it covers them.</param>
public sealed record CodeLogo(Guid Id, int Percent = 22, int Margin = 1, bool KnocksOut = true);

/// <summary>A line of text beside the code.</summary>
/// <param name="Color">Colour of the line and band; of the text if there is no band.</param>
/// <param name="TextColor">Colour of the text in the band.</param>
public sealed record CodeFrame(FrameShape Shape, string Text, string Color = "#231b22", string TextColor = "#ffffff");

/// <summary>How a code looks. Colours are written <c>#rrggbb</c>.</summary>
public sealed record CodeStyle
{
    public const int UsualQuietZone = 4;

    /// <summary>Black squares on white.</summary>
    public static readonly CodeStyle Plain = new();

    public ModuleShape Modules { get; init; }

    /// <summary>The rings of the three corners.</summary>
    public CornerShape Corners { get; init; }

    /// <summary>The centres of the rings.</summary>
    public CornerShape Centres { get; init; }

    public string Ink { get; init; } = "#000000";

    public CodeGradient? Gradient { get; init; }

    /// <summary>Null if the corners are drawn like the rest.</summary>
    public string? CornerInk { get; init; }

    public string? CentreInk { get; init; }

    /// <summary>Null if the code has no background.</summary>
    public string? Ground { get; init; } = "#ffffff";

    /// <summary>Empty modules around the code.</summary>
    public int QuietZone { get; init; } = UsualQuietZone;

    public CodeLogo? Logo { get; init; }

    public CodeFrame? Frame { get; init; }

    /// <summary>What can't be drawn, by the name of the field.</summary>
    public IEnumerable<(string Field, ValidationError Error)> Errors()
    {
        foreach (
            var (field, color) in new[]
            {
                ("ink", Ink),
                ("gradient.to", Gradient?.To),
                ("cornerInk", CornerInk),
                ("centreInk", CentreInk),
                ("ground", Ground),
                ("frame.color", Frame?.Color),
                ("frame.textColor", Frame?.TextColor),
            }
        )
        {
            if (color is not null && !ColorContrast.TryParse(color, out _))
            {
                yield return (
                    field,
                    new ValidationError("color-format", $"“{color}” isn’t a valid colour. Write it as # and six hex digits, such as #6e2a5b.")
                );
            }
        }

        if (
            !Enum.IsDefined(Modules)
            || !Enum.IsDefined(Corners)
            || !Enum.IsDefined(Centres)
            || Gradient is { Course: var course } && !Enum.IsDefined(course)
            || Frame is { Shape: var shape } && !Enum.IsDefined(shape)
        )
        {
            yield return ("modules", new ValidationError("shape-unknown", "Unknown shape."));
        }

        if (QuietZone is < 0 or > 20)
        {
            yield return ("quietZone", new ValidationError("quiet-zone-range", "The quiet zone can be 0 to 20 modules wide; the standard is 4."));
        }

        if (Logo is { Percent: < 5 or > 60 } or { Margin: < 0 or > 4 })
        {
            yield return ("logo", new ValidationError("logo-range", "A logo can take 5% to 60% of the width, with a margin of 0 to 4 modules."));
        }

        if (Frame is { Text: var text } && (string.IsNullOrWhiteSpace(text) || text.Length > 40))
        {
            yield return (
                "frame.text",
                new ValidationError("frame-text", "The caption is one line of at most 40 characters. Say what people get, or remove the caption.")
            );
        }
    }
}

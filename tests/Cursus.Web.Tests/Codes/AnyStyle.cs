using Cursus.Core.Codes;
using Cursus.Web.Codes;
using SkiaSharp;

namespace Cursus.Web.Tests.Codes;

/// <summary>Codes as people might make them, good and bad, the same ones each time.</summary>
internal static class AnyStyle
{
    private static readonly string[] Darks =
    [
        "#000000",
        "#231b22",
        "#6e2a5b",
        "#54703a",
        "#a8323a",
        "#1f3c88",
        "#7a4b00",
        "#2b757b",
        "#a04a18",
        "#5a5a5a",
        "#c06020",
        "#e08a9a",
    ];
    private static readonly string[] Lights = ["#ffffff", "#fffdf9", "#f7f4ee", "#fdf0c4", "#dcebd8", "#cfd8e8", "#e2c9d8", "#f2e6ff", "#b9a58a"];
    private static readonly string[] Slugs =
    [
        "orion",
        "winter-members",
        "perseid-nights-2026",
        "school_visits",
        "spring-talks-at-the-observatory",
        "k7Qx2",
    ];

    public static FinishedCode Of(int seed)
    {
        var random = new Random(seed);
        T Any<T>(IReadOnlyList<T> values) => values[random.Next(values.Count)];
        bool Often(double share) => random.NextDouble() < share;
        var ink = Any(Darks);
        var corners = Any(Enum.GetValues<CornerShape>());
        CornerShape Fitting(CornerShape ring) => Often(0.5) ? ring : CornerShape.Soft;
        var style = new CodeStyle
        {
            Modules = Any(Enum.GetValues<ModuleShape>()),
            Corners = corners,
            Centres = Often(0.8) ? Fitting(corners) : Any(Enum.GetValues<CornerShape>()),
            Ink = ink,
            Gradient = Often(0.3) ? new CodeGradient(Any(Darks), Any(Enum.GetValues<GradientCourse>())) : null,
            CornerInk = Often(0.3) ? Any(Darks) : null,
            CentreInk = Often(0.3) ? Any(Darks) : null,
            Ground = Often(0.9) ? Any(Lights) : null,
            QuietZone = Often(0.9) ? 4 : random.Next(0, 8),
            Logo = Often(0.5) ? new CodeLogo(Guid.Empty, random.Next(8, 26), random.Next(0, 3), Often(0.7)) : null,
            Frame = Often(0.3) ? new CodeFrame(Any(Enum.GetValues<FrameShape>()), "Scan to join") : null,
        };
        if (Often(0.05))
        {
            style = style with { Ink = style.Ground ?? "#ffffff", Ground = style.Ink };
        }

        return FinishedCode.Of($"https://nmoor.example/{Any(Slugs)}", 1, style, style.Logo is null ? null : Any(Logos));
    }

    private static readonly LogoArt[] Logos =
    [
        new(
            10,
            10,
            null,
            [new LogoShape("M5 0A5 5 0 1 1 5 10A5 5 0 1 1 5 0Z", "#6e2a5b"), new LogoShape("M5 2L6 4L8 5L6 6L5 8L4 6L2 5L4 4Z", "#fffdf9")]
        ),
        new(20, 10, null, [new LogoShape("M0 0H20V10H0Z", "#231b22"), new LogoShape("M2 2H6V8H2ZM8 2H18V4H8Z", "#f7f4ee")]),
        Picture(60, 60),
    ];

    private static LogoArt Picture(int width, int height)
    {
        using var bitmap = new SKBitmap(width, height);
        using var canvas = new SKCanvas(bitmap);
        using var paint = new SKPaint { Color = SKColors.SeaGreen, IsAntialias = true };
        canvas.Clear(SKColors.Transparent);
        canvas.DrawCircle(width / 2f, height / 2f, width / 2f, paint);
        paint.Color = SKColors.White;
        canvas.DrawRect(width / 4f, height / 3f, width / 2f, height / 3f, paint);
        using var png = bitmap.Encode(SKEncodedImageFormat.Png, 100);
        return new LogoArt(width, height, png.ToArray(), []);
    }
}

using System.Text;
using Cursus.Core.Codes;
using Cursus.Data;
using Cursus.Data.Codes;
using Cursus.Data.Links;
using Cursus.Data.Workspaces;
using Cursus.Web.Codes;
using NodaTime;

namespace Cursus.Web.Demo;

/// <summary>The demo's QR codes: two styles, and on printed placements a code for each place where the poster hangs.</summary>
internal static class DemoCodes
{
    private const string Print = "print";

    public static void Add(CursusDb db, DemoScenario scenario, Workspace workspace, IEnumerable<Link> links, Instant begun)
    {
        var (art, error) = LogoFile.Read(Encoding.UTF8.GetBytes(scenario.Logo));
        var logo = art is null
            ? throw new InvalidDataException($"The demo's logo can't be read: {error!.Text}")
            : new SavedCodeLogo
            {
                WorkspaceId = workspace.Id,
                Name = "Dome",
                Width = art.Width,
                Height = art.Height,
                Shapes = CodeStyleJson.Write(art.Shapes),
                CreatedAt = begun,
            };
        db.Add(logo);
        foreach (var file in scenario.Codes.Styles)
        {
            var style = CodeStyleJson.ReadStyle(file.Style.GetRawText());
            style = file.HasLogo ? style with { Logo = style.Logo! with { Id = logo.Id } } : style;
            db.Add(
                new SavedCodeStyle
                {
                    WorkspaceId = workspace.Id,
                    Name = file.Name,
                    Style = CodeStyleJson.Write(style),
                    LogoId = style.Logo?.Id,
                    IsDefault = file.IsDefault,
                    CreatedAt = begun,
                }
            );
        }

        db.AddRange(
            links
                .Where(l => l.Medium == Print)
                .SelectMany(link =>
                    scenario.Codes.Places.Select(
                        (place, i) =>
                            new LinkCode
                            {
                                LinkId = link.Id,
                                Number = (short)(ScannedPath.OwnCode + 1 + i),
                                Name = place.Name,
                                CreatedAt = link.CreatedAt,
                            }
                    )
                )
        );
    }

    /// <summary>The code that a click came by; who stands before a poster and types is counted as a click.</summary>
    /// <param name="drawn">Any number; the same one makes the same code.</param>
    public static byte CodeOf(DemoScenario scenario, DemoScenario.ChannelFile channel, long drawn)
    {
        if (channel.Medium != Print)
        {
            return 0;
        }

        var share = (int)((drawn >> 20) % 100);
        foreach (var (i, place) in scenario.Codes.Places.Index())
        {
            if ((share -= place.Per100) < 0)
            {
                return (byte)(ScannedPath.OwnCode + 1 + i);
            }
        }

        return 0;
    }
}

using System.Text.Json;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

/// <summary>Invented networks, one of each kind.</summary>
internal static class SampleNetworks
{
    public static readonly AdNetwork Picture = new(
        "fairlead",
        "Fairlead",
        PixelReference.Id,
        new PixelFiring(
            PixelKind.Image,
            "https://px.fairlead.example/hit?p={id}&e={event}&on={link}&about={destination}&c={campaign}&s={source}&m={medium}&n={random}&t={time}"
        ),
        "FL-[0-9]{6}",
        "FL-204417",
        ["[?&]p=(?<id>FL-[0-9]{6})"],
        SmallestAudience: 100
    );

    public static readonly AdNetwork Calls = new(
        "beaconry",
        "Beaconry",
        PixelReference.Id,
        new PixelFiring(
            PixelKind.Script,
            "https://tag.beaconry.example/{id}.js",
            "beaconry",
            [Json("""["begin","{id}"]"""), Json("""["saw","{event}",{"address":"{link}","value":1}]""")]
        ),
        "[0-9a-f]{12}",
        "9f2c41d07ab3",
        [@"beaconry\(\s*'begin'\s*,\s*'(?<id>[0-9a-f]{12})'"],
        Hosts: ["https://collect.beaconry.example"]
    );

    public static readonly AdNetwork List = new(
        "guildhall-ads",
        "Guildhall Ads",
        PixelReference.Id,
        new PixelFiring(
            PixelKind.Container,
            "https://ads.guildhall.example/c.js",
            "guildhallAds",
            [Json("""{"pixel":"{id}","event":"{event}","address":"{link}"}""")]
        ),
        "GH[0-9]{8}",
        "GH20441733",
        [@"pixel\s*:\s*'(?<id>GH[0-9]{8})'"]
    );

    public static readonly AdNetwork AnyPicture = new("image-pixel", "Image pixel", PixelReference.Address, new PixelFiring(PixelKind.Image));
    public static readonly AdNetwork AnyScript = new("script-pixel", "Script", PixelReference.Address, new PixelFiring(PixelKind.Script));
    public static readonly AdNetwork AnyContainer = new(
        "tag-container",
        "Tag-manager container",
        PixelReference.Address,
        new PixelFiring(PixelKind.Container)
    );

    public static readonly IReadOnlyList<AdNetwork> All = [Picture, Calls, List, AnyPicture, AnyScript, AnyContainer];

    public static readonly PixelValues Values = new(
        "FL-204417",
        "visit",
        "https://nmoor.example/geminids-perch",
        "https://www.northmoor.example/events/geminids?utm_source=perch&utm_medium=social",
        "winter-members",
        "perch",
        "social",
        "5aba850a",
        1_764_000_000_000
    );

    private static JsonElement Json(string text) => JsonDocument.Parse(text).RootElement;
}

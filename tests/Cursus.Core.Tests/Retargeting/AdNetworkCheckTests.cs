using System.Text.Json;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

public class AdNetworkCheckTests
{
    [Fact]
    public void A_sound_description_has_no_flaw()
    {
        foreach (var network in SampleNetworks.All)
        {
            AdNetworkCheck.Errors(network).ShouldBeEmpty(network.Name);
        }
    }

    public static TheoryData<string, AdNetwork> Wrong() =>
        new()
        {
            { "key", SampleNetworks.Picture with { Key = "Night Ads" } },
            { "name", SampleNetworks.Picture with { Name = " " } },
            { "event", SampleNetworks.Picture with { Event = "" } },
            { "smallestAudience", SampleNetworks.Picture with { SmallestAudience = -1 } },
            { "idPattern", SampleNetworks.Picture with { IdPattern = "[" } },
            { "idPattern", SampleNetworks.Picture with { IdPattern = "(?<=x)y" } },
            { "find", SampleNetworks.Picture with { Find = ["FL-[0-9]+"] } },
            { "hosts", SampleNetworks.Calls with { Hosts = ["https://a.example/path"] } },
            { "hosts", SampleNetworks.Calls with { Hosts = ["https://*"] } },
            { "hosts", SampleNetworks.Calls with { Hosts = ["'unsafe-inline'"] } },
            { "fires.address", SampleNetworks.Picture with { Fires = new(PixelKind.Image, "javascript:alert(1)") } },
            { "fires.queue", SampleNetworks.Calls with { Fires = SampleNetworks.Calls.Fires with { Queue = "a;alert(1)" } } },
            {
                "fires.calls",
                SampleNetworks.Calls with
                {
                    Fires = SampleNetworks.Calls.Fires with { Calls = [JsonDocument.Parse("""{"a":1}""").RootElement] },
                }
            },
            {
                "fires.calls",
                SampleNetworks.List with
                {
                    Fires = SampleNetworks.List.Fires with { Calls = [JsonDocument.Parse("""{"a":"{nothing}"}""").RootElement] },
                }
            },
        };

    [Theory]
    [MemberData(nameof(Wrong))]
    public void What_is_wrong_is_told_at_its_field(string field, AdNetwork network) =>
        AdNetworkCheck.Errors(network).Select(f => f.Field).ShouldBe([field]);
}

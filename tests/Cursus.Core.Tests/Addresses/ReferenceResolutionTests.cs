using System.Text.Json;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Tests.Addresses;

public class ReferenceResolutionTests
{
    private static readonly WebAddress Base = WebAddress.Parse("http://a/b/c/d;p?q", null, out _)!;

    public static TheoryData<string, string> Examples()
    {
        var data = new TheoryData<string, string>();
        foreach (
            var pair in JsonSerializer.Deserialize<string[][]>(
                File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "ReferenceData/rfc3986-5.4.json"))
            )!
        )
        {
            data.Add(pair[0], pair[1]);
        }

        return data;
    }

    [Theory, MemberData(nameof(Examples))]
    public void References_resolve_as_RFC_3986_section_5_4_says(string reference, string expected) =>
        WebAddress.Parse(reference, Base, out _)!.ToString().ShouldBe(expected);

    [Fact]
    public void A_reference_to_another_scheme_is_refused()
    {
        WebAddress.Parse("g:h", Base, out var error).ShouldBeNull();
        error!.Code.ShouldBe("destination-scheme");
    }
}

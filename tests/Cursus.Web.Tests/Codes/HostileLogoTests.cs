using System.Text;
using CsCheck;
using Cursus.Web.Codes;

namespace Cursus.Web.Tests.Codes;

/// <summary>Logos that are made to keep whoever reads them busy.</summary>
public class HostileLogoTests
{
    private const long Budget = 50L * 1024 * 1024;
    private const string Sound =
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><g transform='rotate(30 4 4) scale(2)'><path d='M1 1h5v5z' fill='#123'/><circle cx='4' cy='4' r='2'/></g></svg>";

    public static TheoryData<string, string> Logos =>
        new()
        {
            { "logo-shapes", Svg(string.Concat(Enumerable.Repeat("<g>", 100_000)) + string.Concat(Enumerable.Repeat("</g>", 100_000))) },
            { "logo-shapes", Svg(string.Concat(Enumerable.Repeat("<g xmlns:a='b'>", 20_000)) + string.Concat(Enumerable.Repeat("</g>", 20_000))) },
            { "logo-shapes", Svg(string.Concat(Enumerable.Repeat("<path d='M0 0h1'/>", 100_000))) },
            { "logo-shapes", Svg("<defs>" + string.Concat(Enumerable.Repeat("<path/>", 100_000)) + "</defs>") },
            { "logo-broken", "<!DOCTYPE svg [<!ENTITY a '&#x61;'>]>" + Svg("&a;") },
            { "logo-broken", Svg("<g>") },
        };

    [Theory, MemberData(nameof(Logos))]
    public void A_logo_with_more_in_it_than_a_logo_has_is_refused_without_being_built(string code, string logo)
    {
        var bytes = Encoding.UTF8.GetBytes(logo);
        var before = GC.GetAllocatedBytesForCurrentThread();
        LogoFile.Read(bytes).Error!.Code.ShouldBe(code);
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(Budget);
    }

    [Fact]
    public void Whatever_bytes_a_logo_has_it_is_read_or_refused()
    {
        LogoFile.Read(Encoding.UTF8.GetBytes(Sound)).Art.ShouldNotBeNull();
        Gen.Select(Gen.Int[0, 10_000], Gen.Byte)
            .Array[1, 8]
            .Sample(
                changes =>
                {
                    var bytes = Encoding.UTF8.GetBytes(Sound);
                    foreach (var (where, with) in changes)
                    {
                        bytes[where % bytes.Length] = with;
                    }

                    var (art, error) = LogoFile.Read(bytes);
                    (art is null).ShouldBe(error is not null);
                },
                iter: 2000
            );
    }

    private static string Svg(string content) => $"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'>{content}</svg>";
}

using System.Text.Json;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Tests.Addresses;

/// <summary>Sources: web-platform-tests' URL test data, and the conformance cases of UTS #46 (ReferenceData/README.md).</summary>
public class WebPlatformTests
{
    [Fact]
    public void Addresses_are_read_as_the_web_platform_tests_say_except_that_credentials_are_refused()
    {
        var cases = Cases("urltestdata-http.json").Where(c => c[1] is null || !c[1]!.Contains('@', StringComparison.Ordinal)).ToList();
        cases.Count.ShouldBeGreaterThan(400);
        var differing = cases.Where(c => Read(c[0]!, c[1])?.ToString() != c[2]).ToList();
        differing.Count.ShouldBe(28);
        differing.ShouldAllBe(c => ValidationError(c[0]!) == "destination-credentials");
    }

    /// <summary>What browsers take, is saved as it was given, and pasting leaves it alone.</summary>
    [Fact]
    public void Addresses_that_browsers_read_are_kept_as_they_are()
    {
        var kept = 0;
        char[] around = [.. Enumerable.Range(0, ' ' + 1).Select(i => (char)i)];
        var cases = Cases("urltestdata-http.json").Where(c => c[2] is not null).ToList();

        // What is read without another address beside it, and what comes out of reading.
        foreach (var input in cases.Where(c => c[1] is null).Select(c => c[0]!.Trim(around)).Concat(cases.Select(c => c[2]!)).Distinct())
        {
            if (Destination.TryParse(input, out var destination, out _))
            {
                destination.AsEntered.ShouldBe(input);
                kept++;
                if (
                    input.StartsWith("http", StringComparison.OrdinalIgnoreCase)
                    && input.Contains("://", StringComparison.Ordinal)
                    && !input.Any(char.IsWhiteSpace)
                )
                {
                    PastedAddress.Clean(input).ShouldBe(input);
                }
            }
        }

        kept.ShouldBeGreaterThan(150);
    }

    /// <summary>Two cases are numbers, which an address reads as IPv4; others are longer than the DNS allows, or end in a number and a dot.</summary>
    [Fact]
    public void International_names_become_the_ASCII_names_of_UTS_46()
    {
        var cases = Cases("idna-test-v2.json").Where(c => c[1] is not null).ToList();
        cases.Count.ShouldBeGreaterThan(400);
        var differing = cases.Where(c => Host(c[0]!) != c[1]).ToList();
        differing.Count.ShouldBe(23);
        differing.ShouldAllBe(c => c[1]!.Length > 253 || c[1]!.TrimEnd('.').Split('.', StringSplitOptions.None).Last().All(char.IsAsciiDigit));
    }

    /// <summary>
    /// The runtime's tables don't know the rule for right-to-left labels (RFC 5893), nor characters that were disallowed for their mapping alone.
    /// Such names can't be registered, so that a link to one leads nowhere, as its preview says; nothing worse comes of them.
    /// </summary>
    [Fact]
    public void Most_names_that_UTS_46_calls_invalid_are_refused_and_those_that_are_not_are_known()
    {
        var cases = Cases("idna-test-v2.json").Where(c => c[1] is null).ToList();
        cases.Count.ShouldBeGreaterThan(5600);
        cases.Count(c => Host(c[0]!) is not null).ShouldBeLessThanOrEqualTo(629);
    }

    private static string?[][] Cases(string file) =>
        JsonSerializer.Deserialize<string?[][]>(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "ReferenceData", file)))!;

    private static WebAddress? Read(string input, string? @base) =>
        WebAddress.Parse(input, @base is null ? null : WebAddress.Parse(@base, null, out _), out _);

    private static string? ValidationError(string input)
    {
        WebAddress.Parse(input, null, out var error);
        return error?.Code;
    }

    private static string? Host(string name) => WebAddress.Parse($"https://{name}/", null, out _)?.Host;
}

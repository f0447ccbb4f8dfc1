using Cursus.Core.Clicks;
using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Core.Tests.Routing;

public class RouteCheckTests
{
    private static readonly RouteConditions Phones = new() { Devices = [RouteDevice.Phone] };

    public static TheoryData<string, string, Route> Impossible =>
        new()
        {
            {
                "rules",
                "too-many-rules",
                new() { Rules = [.. Enumerable.Repeat(new RouteRule(Phones, Pages(100)), 51)] }
            },
            { "rules[0].when", "empty-rule", Of(new(new(), Pages(100))) },
            { "rules[0].to", "page-missing", Of(new(Phones, Pages())) },
            { "rules[0].to", "weights", Of(new(Phones, Pages(50, 40))) },
            { "rules[0].to", "weights", Of(new(Phones, Pages(150, -50))) },
            { "rules[0].to", "weights", Of(new(Phones, Pages(int.MaxValue, int.MaxValue))) },
            { "rules[0].to", "too-many-pages", Of(new(Phones, Pages([.. Enumerable.Repeat(4, 20), 20]))) },
            {
                "otherwise.to",
                "weights",
                new() { Otherwise = Pages(1, 1) }
            },
            { "rules[0].when.countries", "country-unknown", Of(new(new() { Countries = [CountryCode.Of("XX")] }, Pages(100))) },
            { "rules[0].when.notCountries", "country-unknown", Of(new(new() { NotCountries = [CountryCode.Of("QZ")] }, Pages(100))) },
            { "rules[0].when.languages", "language", Of(new(new() { Languages = ["German!"] }, Pages(100))) },
            { "rules[0].when.until", "time-order", Of(new(new() { From = Noon, Until = Noon }, Pages(100))) },
            { "rules[0].when.first", "first", Of(new(new() { First = 0 }, Pages(100))) },
            { "rules[0].when.query", "query", Of(new(new() { Query = new("") }, Pages(100))) },
            { "rules[0].closed.text", "option-too-long", Of(new(Phones, new() { IsClosed = true, ClosedText = new('a', 301) })) },
            { "rules[0].name", "name-too-long", Of(new(Phones, Pages(100), new string('a', 101))) },
        };

    private static Instant Noon => Instant.FromUtc(2026, 12, 1, 12, 0);

    [Theory]
    [MemberData(nameof(Impossible))]
    public void What_cannot_be_followed_is_told_with_its_field(string field, string code, Route route) =>
        RouteCheck.Errors(route).Select(e => (e.Field, e.Error.Code)).ShouldBe([(field, code)]);

    [Fact]
    public void What_can_be_followed_has_no_errors()
    {
        var rules = new RouteRule[]
        {
            new(Phones, Pages(100)),
            new(
                new()
                {
                    Countries = [default, CountryCode.Of("DE")],
                    First = 1,
                    Query = new("ref", "a"),
                },
                Pages(50, 30, 20, 0)
            ),
            new(new() { Until = Noon }, new RouteOutcome { IsClosed = true, ClosedText = "Not here, sorry." }),
        };
        RouteCheck.Errors(new() { Rules = rules, Otherwise = Pages(50, 50) }).ShouldBeEmpty();
        RouteCheck.Errors(new()).ShouldBeEmpty();
    }

    [Fact]
    public void What_no_form_has_made_is_not_followed()
    {
        short last = 0;
        var route = RouteEditing.After(null, new() { Rules = [new(Phones, Pages(100))], Otherwise = Pages(60, 40) }, ref last)!;
        var good = RouteText.Of(RoutePages.Numbered(route, new Dictionary<string, byte>()).Route);
        RouteCheck.OfStored(good).ShouldBeNull();
        RouteCheck.OfStored(RouteText.Of(route)).ShouldNotBeNull("its pages have no numbers");
        foreach (
            var bad in new[]
            {
                "",
                "null",
                "{\"rules\":null}",
                "{\"rules\":[{}]}",
                good.Replace("https://northmoor.example/", "javascript:x", StringComparison.Ordinal),
                good.Replace("\"to\":1000", "\"to\":999", StringComparison.Ordinal),
                good.Replace("\"weight\":60", "\"weight\":70", StringComparison.Ordinal),
                good.Replace("phone", "tricorder", StringComparison.Ordinal),
            }
        )
        {
            bad.ShouldNotBe(good);
            RouteCheck.OfStored(bad).ShouldNotBeNull(bad);
        }
    }

    /// <summary>The list is ISO 3166-1's, of 249 countries, as Debian's package iso-codes 4.15 has it too; the user-assigned codes of its section
    /// 8.1.3 (AA, QM to QZ, XA to XZ, ZZ; from memory) are no countries.</summary>
    [Fact]
    public void The_countries_are_those_of_the_standard()
    {
        CountryNames.Codes.Where(c => c != "XK").Count().ShouldBe(249, "XK is in use without standing in the norm");
        string[] assignedByUsers = ["AA", "QM", "QZ", "XA", "XX", "XZ", "ZZ"];
        CountryNames.Codes.ShouldNotContain(c => assignedByUsers.Contains(c));
    }

    [Fact]
    public void Conditions_are_told_as_people_say_them()
    {
        var weekdays = Enumerable.Range(1, 5).Select(d => (IsoDayOfWeek)d).ToList();
        var when = new RouteConditions
        {
            Devices = [RouteDevice.Phone],
            Countries = [CountryCode.Of("DE"), CountryCode.Of("AT")],
            Week = new(weekdays, 8 * 60, 18 * 60),
        };
        RouteWords.Of(when, DateTimeZone.Utc).ShouldBe("on a phone, in Germany or Austria, Mon–Fri 08:00–18:00");
        var other = new RouteConditions
        {
            NotCountries = [default],
            Languages = ["de", "fr-CA"],
            From = Noon,
            Query = new("ref", "a"),
            First = 100,
            Week = new([IsoDayOfWeek.Monday, IsoDayOfWeek.Saturday, IsoDayOfWeek.Sunday]),
        };
        RouteWords
            .Of(other, DateTimeZone.Utc)
            .ShouldBe(
                "not in an unknown country, reading German or French (Canada), Mon, Sat, Sun, from 1 Dec 2026, 12:00, with ref=a, the first 100 people"
            );
    }

    [Theory]
    [InlineData("NL", "in the Netherlands")]
    [InlineData("MK", "in the Republic of North Macedonia")]
    [InlineData("IS", "in Iceland")]
    public void A_country_has_the_article_that_its_name_has_in_a_sentence(string code, string words) =>
        RouteWords.Of(new RouteConditions { Countries = [CountryCode.Of(code)] }, DateTimeZone.Utc).ShouldBe(words);

    [Theory]
    [InlineData("systems")]
    [InlineData("languages")]
    [InlineData("networks")]
    public void A_single_value_has_an_end(string field)
    {
        string[] values = [string.Join('-', Enumerable.Repeat("de", RouteCheck.MaxName))];
        var when = new RouteConditions { Systems = field == "systems" ? values : [] };
        when = when with { Languages = field == "languages" ? values : [], Networks = field == "networks" ? values : [] };
        var rule = new RouteRule(when, Pages(100));
        RouteCheck.Errors(Of(rule)).Select(e => e.Field).ShouldBe([$"rules[0].when.{field}"]);
    }

    private static Route Of(RouteRule rule) => new() { Rules = [rule] };

    private static RouteOutcome Pages(params int[] weights) =>
        new() { Pages = [.. weights.Select((w, i) => new RoutePage("https://northmoor.example/", w, []))] };
}

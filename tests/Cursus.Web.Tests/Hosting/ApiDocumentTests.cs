using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Cursus.Data.Reports.Questions;

namespace Cursus.Web.Tests.Hosting;

public partial class ApiDocumentTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_document_describes_every_operation_with_a_summary_and_in_camel_case()
    {
        var document = await Read();
        ((string)document["openapi"]!).ShouldStartWith("3.1");
        foreach (var (path, operations) in document["paths"]!.AsObject())
        {
            foreach (var (method, operation) in operations!.AsObject())
            {
                ((string?)operation!["summary"]).ShouldNotBeNullOrEmpty($"{method} {path}");
                (operation["parameters"]?.AsArray() ?? []).Select(p => (string)p!["name"]!).ShouldAllBe(name => char.IsLower(name[0]));
            }
        }
    }

    [Theory]
    [InlineData("/api/v1/posts", "post")]
    [InlineData("/api/v1/links", "get")]
    [InlineData("/api/v1/links", "post")]
    [InlineData("/api/v1/links/{id}", "patch")]
    [InlineData("/api/v1/links/{id}", "delete")]
    [InlineData("/api/v1/channels", "post")]
    [InlineData("/api/v1/campaigns", "post")]
    [InlineData("/api/v1/domains", "post")]
    [InlineData("/api/v1/tags", "post")]
    [InlineData("/api/v1/reports/breakdown", "get")]
    [InlineData("/api/v1/reports/series", "get")]
    public async Task What_the_contract_names_is_there(string path, string method) => (await Read())["paths"]![path]![method].ShouldNotBeNull();

    [Fact]
    public async Task A_link_has_the_fields_that_the_contract_names()
    {
        string[] named =
        [
            "id",
            "shortUrl",
            "domain",
            "slug",
            "title",
            "destination",
            "finalUrl",
            "source",
            "medium",
            "campaign",
            "term",
            "content",
            "redirect",
            "tags",
            "pixels",
            "createdAt",
            "clicks",
        ];
        var fields = (await Read())["components"]!["schemas"]!["LinkResponse"]!["properties"]!.AsObject().Select(p => p.Key);
        named.ShouldBeSubsetOf(fields);
    }

    [Fact]
    public async Task The_glossary_s_names_are_the_API_s()
    {
        var document = await Read();
        var paths = document["paths"]!.AsObject().Select(p => p.Key["/api/v1/".Length..]).ToList();
        var names = document["components"]!["schemas"]!
            .AsObject()
            .SelectMany(s => s.Value!["properties"]?.AsObject().Select(p => p.Key) ?? [])
            .Concat(paths.Select(p => p.Split('/')[0]))
            .Concat(paths)
            .Concat(Dimensions.All.Keys)
            .ToHashSet();
        var glossary = await File.ReadAllLinesAsync(Repository.Of("docs", "glossary.md"), Cancel);
        var told = glossary
            .Where(l => l.StartsWith('|'))
            .SelectMany(l => NamesInCode().Matches(l.Split('|')[3]).Select(m => m.Groups[1].Value))
            .ToList();
        told.Count.ShouldBeGreaterThan(30);
        told.ShouldBeSubsetOf(names);
    }

    [Fact]
    public async Task The_document_lists_what_people_can_group_clicks_by()
    {
        var listed = (await Read())["x-dimensions"]!.AsArray().Where(d => (bool)d!["isChosen"]!).ToDictionary(d => (string)d!["name"]!, d => d!);
        listed.Keys.ShouldBe(Dimensions.InOrder.Where(d => d.Name != "placement").Select(d => d.Name));
        ((string)listed["os"]["words"]!).ShouldBe("operating system");
        listed.Values.Select(d => (string?)d["next"]).OfType<string>().ShouldBeSubsetOf(listed.Keys);
        ((bool)listed["hour"]["isFilter"]!).ShouldBeFalse();
        ((bool)listed["campaign"]["hasPosts"]!).ShouldBeTrue();
    }

    [Theory]
    [InlineData("/api/v1/reports/breakdown")]
    [InlineData("/api/v1/reports/clicks.csv")]
    [InlineData("/api/v1/reports/pivot.svg")]
    public async Task Every_filter_of_a_report_is_in_the_contract(string path)
    {
        var parameters = (await Read())["paths"]![path]!["get"]!["parameters"]!.AsArray();
        var named = parameters.Select(p => (string)p!["name"]!).ToList();
        Dimensions.Filters.ShouldBeSubsetOf(named);
        Dimensions.Filters.ShouldContain("scan");
        named.ShouldBeUnique();
        parameters.Single(p => (string)p!["name"]! == "by")!["schema"]!["enum"]!
            .AsArray()
            .Select(v => (string)v!)
            .ShouldBe(Dimensions.InOrder.Select(d => d.Name));
    }

    [Theory]
    [InlineData("GET", "/api/v1/nothing", 404)]
    [InlineData("DELETE", "/api/v1/posts", 405)]
    [InlineData("GET", "/api/nothing", 404)]
    public async Task What_the_API_does_not_have_is_told_as_problem_details(string method, string path, int status)
    {
        var response = await app.CreateClient().SendAsync(new HttpRequestMessage(new HttpMethod(method), path), Cancel);
        ((int)response.StatusCode).ShouldBe(status);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        ((string?)(await World.Read(response))["code"]).ShouldNotBeNullOrEmpty();
    }

    private async Task<JsonNode> Read() => await World.Read(await app.CreateClient().GetAsync("/api/openapi.json", Cancel));

    [GeneratedRegex("`([^`]+)`")]
    private static partial Regex NamesInCode();
}

using Cursus.Data.Addresses;
using Cursus.Web.Edge;
using NodaTime;
using LinkOptions = Cursus.Core.Addresses.LinkOptions;

namespace Cursus.Web.Tests.Edge;

public class LinkTableTests(CursusApp app)
{
    private static readonly LinkEntry Link = new(Guid.NewGuid(), "https://northmoor.example/", 302, LinkOptions.Plain);

    [Fact]
    public void A_domain_and_a_slug_are_found_without_case()
    {
        var table = With("nmoor.localhost");
        table.Put("nmoor.localhost", "geminids", Link);
        LinkTable.Find(table.FindDomain("NMOOR.localhost")!, "GemiNids").ShouldBe(Link);
        LinkTable.Find(table.FindDomain("nmoor.localhost")!, "geminid").ShouldBeNull();
    }

    [Fact]
    public void The_same_slug_on_two_domains_is_two_links()
    {
        var table = With("nmoor.localhost", "stars.localhost");
        table.Put("nmoor.localhost", "geminids", Link);
        LinkTable.Find(table.FindDomain("stars.localhost")!, "geminids").ShouldBeNull();
    }

    [Fact]
    public void Links_of_a_domain_that_does_not_answer_are_not_entered()
    {
        var table = With("nmoor.localhost");
        table.Put("waiting.example", "geminids", Link);
        table.FindDomain("waiting.example").ShouldBeNull();
    }

    [Fact]
    public void What_was_removed_is_gone_and_the_rest_stays()
    {
        var table = With("nmoor.localhost", "stars.localhost");
        table.Put("nmoor.localhost", "one", Link);
        table.Put("nmoor.localhost", "two", Link);
        table.Remove("nmoor.localhost", "ONE");
        table.RemoveDomain("stars.localhost");
        LinkTable.Find(table.FindDomain("nmoor.localhost")!, "one").ShouldBeNull();
        LinkTable.Find(table.FindDomain("nmoor.localhost")!, "two").ShouldBe(Link);
        table.FindDomain("stars.localhost").ShouldBeNull();
    }

    [Fact]
    public async Task After_a_restart_it_holds_what_was_saved_and_not_what_was_deleted()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Editor.DeleteAsync($"/api/v1/links/{post["placements"]![1]!["link"]!["id"]}", TestContext.Current.CancellationToken);
        var table = new LinkTable();
        await using var db = app.Database();
        await table.Load(db, TestContext.Current.CancellationToken);
        var domain = table.FindDomain(world.Domain)!;
        LinkTable.Find(domain, World.Slug(post, 0))!.Location.ShouldBe((string)post["placements"]![0]!["link"]!["finalUrl"]!);
        LinkTable.Find(domain, World.Slug(post, 1))!.Location.ShouldBeNull();
        table.IsLoaded.ShouldBeTrue();
    }

    private static LinkTable With(params string[] domains)
    {
        var table = new LinkTable();
        foreach (var name in domains)
        {
            table.PutDomain(new ShortDomain { Name = name, VerifiedAt = Instant.FromUtc(2026, 1, 1, 0, 0) });
        }

        return table;
    }
}

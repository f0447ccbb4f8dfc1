using System.Text;
using Cursus.Core.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;

namespace Cursus.Web.Tests.Outgoing;

/// <summary>What Cursus asks of other servers, and what it refuses to ask (OWASP's cheat sheet on server-side request forgery lists such
/// cases).</summary>
public sealed class OutgoingClientTests : IAsyncLifetime, IDisposable
{
    private readonly TestNames names = new();
    private TestSites sites = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => sites = await TestSites.Start();

    public ValueTask DisposeAsync() => sites.DisposeAsync();

    public void Dispose() => names.Dispose();

    [Theory]
    [InlineData("http://127.0.0.1:{0}/page")]
    [InlineData("http://2130706433:{0}/page")]
    [InlineData("http://0x7f.0.0.1:{0}/page")]
    [InlineData("http://0177.1:{0}/page")]
    [InlineData("http://[::1]:{0}/page")]
    [InlineData("http://[::ffff:127.0.0.1]:{0}/page")]
    [InlineData("http://[::ffff:7f00:1]:{0}/page")]
    [InlineData("http://0.0.0.0:{0}/page")]
    [InlineData("http://localhost:{0}/page")]
    [InlineData("http://other.localhost:{0}/page")]
    [InlineData("http://169.254.169.254/latest/meta-data/")]
    [InlineData("http://metadata.internal/")]
    [InlineData("http://inside.example:{0}/page")]
    [InlineData("http://six-inside.example:{0}/page")]
    [InlineData("http://half-inside.example:{0}/page")]
    public async Task A_private_address_is_not_asked_however_it_is_written(string address)
    {
        names.Set("inside.example", "A 127.0.0.1");
        names.Set("six-inside.example", "AAAA ::1");
        names.Set("half-inside.example", "A 198.41.0.4", "A 127.0.0.1");
        (await Refusal(string.Format(null, address, sites.Port), allowed: "site.localhost")).ShouldBe("page-private");
        sites.Asked.ShouldBe(0);
    }

    [Theory]
    [InlineData("http://127.0.0.1:{0}/page")]
    [InlineData("http://169.254.169.254/latest/meta-data/")]
    [InlineData("http://inside.example:{0}/page")]
    [InlineData("//[::1]:{0}/page")]
    public async Task A_redirect_into_a_private_network_is_not_followed(string target)
    {
        names.Set("inside.example", "A 127.0.0.1");
        var at = Uri.EscapeDataString(string.Format(null, target, sites.Port));
        (await Refusal(sites.At("/to?at=" + at), allowed: "site.localhost")).ShouldBe("page-private");
        sites.Asked.ShouldBe(1);
    }

    [Fact]
    public async Task A_name_that_changes_its_address_between_two_looks_gains_nothing()
    {
        var asked = 0;
        names.Set("changing.example", () => [asked++ < 2 ? "A 203.0.114.1" : "A 127.0.0.1"]);
        // Whatever it answers first, the connection goes to the very addresses that were checked.
        var first = await Refusal($"http://changing.example:{sites.Port}/page");
        var second = await Refusal($"http://changing.example:{sites.Port}/page");
        first.ShouldBeOneOf("page-silent", "page-too-slow");
        second.ShouldBe("page-private");
        sites.Asked.ShouldBe(0);
    }

    [Theory]
    [InlineData("file:///etc/passwd")]
    [InlineData("gopher://site.localhost/")]
    public async Task A_redirect_to_another_scheme_is_not_followed(string target) =>
        (await Refusal(sites.At("/to?at=" + Uri.EscapeDataString(target)))).ShouldBe("destination-scheme");

    [Theory]
    [InlineData("/around", "page-redirects")]
    [InlineData("/slow", "page-too-slow")]
    public async Task Patience_ends_and_so_do_redirects(string path, string code) => (await Refusal(sites.At(path))).ShouldBe(code);

    [Fact]
    public async Task A_host_that_does_not_exist_is_told_as_such() => (await Refusal("http://no-such-host.example/")).ShouldBe("page-unknown-host");

    [Fact]
    public async Task No_more_than_a_megabyte_is_read_and_only_what_was_wanted()
    {
        using var client = Client();
        var huge = await client.Get(Destination.Of(sites.At("/huge")).Address, "text/html", Cancel);
        huge.Body.Length.ShouldBe(OutgoingClient.MaxBytes);
        (await client.Get(Destination.Of(sites.At("/picture")).Address, "text/html", Cancel)).Body.ShouldBeEmpty();
    }

    [Fact]
    public async Task It_says_who_asks_and_tells_the_whole_way()
    {
        using var client = Client();
        var page = await client.Get(Destination.Of(sites.At("/to?at=/bare")).Address, "text/html", Cancel);
        page.Way.Select(a => a.Path).ShouldBe(["/to", "/bare"]);
        Encoding.UTF8.GetString(page.Body).ShouldContain("Plain");
        sites.Agent.ShouldBe(OutgoingClient.ForAPerson.UserAgent);
    }

    private async Task<string> Refusal(string address, string allowed = ".localhost")
    {
        using var client = Client(allowed);
        return (await Should.ThrowAsync<PageNotFetchedException>(() => client.Get(Destination.Of(address).Address, "text/html", Cancel))).Error.Code;
    }

    private OutgoingClient Client(string allowed = ".localhost")
    {
        var options = new CursusOptions { NameServer = $"127.0.0.1:{names.Port}", AllowedPrivateHosts = [allowed] };
        return new OutgoingClient(new NameLookup(options), options);
    }
}

using System.Net;
using System.Net.Security;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Cursus.Web.Checking;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;

namespace Cursus.Web.Tests.Checking;

/// <summary>Certificates of own short domains, as visitors' browsers are shown them.</summary>
[Collection(Checks.OneAtATime)]
public sealed class CertificateTests(CursusApp app) : IDisposable
{
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public void Dispose() => listener.Dispose();

    [Theory]
    [InlineData(9, true)]
    [InlineData(40, false)]
    [InlineData(-2, true)]
    public async Task One_that_ends_within_fourteen_days_or_has_ended_is_told(int days, bool isTold)
    {
        var world = await World.Make(app);
        var end = SystemClock.Instance.GetCurrentInstant() + Duration.FromDays(days);
        listener.Start();
        using var certificate = Make(end);
        var serving = Show(certificate);
        await Look(world);
        listener.Stop();
        await serving;

        var domain = (await world.Get("/api/v1/domains"))["items"]![0]!;
        NodaTime
            .Text.InstantPattern.ExtendedIso.Parse((string)domain["certificateEndsAt"]!)
            .Value.ToDateTimeUtc()
            .ShouldBe(end.ToDateTimeUtc(), TimeSpan.FromSeconds(1));
        (await world.Get("/api/v1/link-checks/summary"))["certificates"]!
            .AsArray()
            .Select(c => (string)c!["domain"]!)
            .ShouldBe(isTold ? [world.Domain] : []);
    }

    [Theory]
    [InlineData("https", null, null, 443)]
    [InlineData("https", 8443, null, 8443)]
    [InlineData("https", null, 5184, 5184)]
    [InlineData("http", 5180, null, null)]
    [InlineData("http", 5180, 5184, 5184)]
    public void Certificates_are_looked_at_where_visitors_meet_them(string scheme, int? port, int? named, int? expected) =>
        new LinkCheckOptions { CertificatePort = named }
            .CertificatePortOf(new CursusOptions { PublicScheme = scheme, PublicPort = port })
            .ShouldBe(expected);

    [Fact]
    public async Task A_domain_that_shows_none_is_looked_at_without_harm()
    {
        var world = await World.Make(app);
        listener.Start();
        listener.Stop();
        await Look(world);
        (await world.Get("/api/v1/domains"))["items"]![0]!["certificateEndsAt"].ShouldBeNull();
    }

    /// <summary>Looks at the one domain of this world; those of other tests have been looked at already.</summary>
    private async Task Look(World world)
    {
        await using var db = app.Database();
        await db
            .Domains.Where(d => d.Name != world.Domain && d.CertificateCheckedAt == null)
            .ExecuteUpdateAsync(d => d.SetProperty(x => x.CertificateCheckedAt, SystemClock.Instance.GetCurrentInstant()), Cancel);
        var options = new LinkCheckOptions { CertificatePort = ((IPEndPoint)listener.LocalEndpoint).Port };
        var installation = new CursusOptions { AllowedPrivateHosts = [".localhost"] };
        await new CertificateRound(db, app.Services.GetRequiredService<OutgoingClient>(), options, installation, SystemClock.Instance).Run(Cancel);
    }

    private static X509Certificate2 Make(Instant end)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=test", key, HashAlgorithmName.SHA256);
        using var made = request.CreateSelfSigned(end.ToDateTimeOffset().AddDays(-90), end.ToDateTimeOffset());
        return X509CertificateLoader.LoadPkcs12(made.Export(X509ContentType.Pkcs12), password: null);
    }

    /// <summary>Shows the certificate to everybody until nobody is listened to any more.</summary>
    private async Task Show(X509Certificate2 certificate)
    {
        try
        {
            while (true)
            {
                using var socket = await listener.AcceptTcpClientAsync(Cancel);
                await using var stream = new SslStream(socket.GetStream());
                try
                {
                    await stream.AuthenticateAsServerAsync(new SslServerAuthenticationOptions { ServerCertificate = certificate }, Cancel);
                    await stream.ReadExactlyAsync(new byte[1], Cancel);
                }
                catch (Exception e) when (e is IOException or System.Security.Authentication.AuthenticationException)
                {
                    // Whoever looks goes away when the certificate has been seen.
                }
            }
        }
        catch (Exception e) when (e is SocketException or InvalidOperationException)
        {
            // The listener was stopped.
        }
    }
}

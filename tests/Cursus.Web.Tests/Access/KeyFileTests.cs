using Cursus.Data;
using Cursus.Web.Access;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;

namespace Cursus.Web.Tests.Access;

/// <summary>Whoever gets at the database alone can seal no cookie.</summary>
public sealed class KeyFileTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("cursus-keys").FullName;

    private string Path => System.IO.Path.Combine(folder, "protection.pfx");

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task Keys_lie_encrypted_in_the_database_those_of_earlier_versions_too_and_what_they_sealed_still_opens()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        await World.Make(app);
        await using var db = app.Database();
        (await db.DataProtectionKeys.ToListAsync(Cancel)).ShouldAllBe(k => IsEncrypted(k.Xml!));
        await db.DataProtectionKeys.ExecuteDeleteAsync(Cancel);
        using var certificate = KeyFile.Of(Path);
        var before = Provider(app, keys => keys).CreateProtector("cookies").Protect("Maren");
        (await db.DataProtectionKeys.AsNoTracking().ToListAsync(Cancel)).ShouldContain(k => !IsEncrypted(k.Xml!));

        await KeyFile.EncryptOld(db, certificate, NullLoggerFactory.Instance, Cancel);

        (await db.DataProtectionKeys.AsNoTracking().ToListAsync(Cancel)).ShouldAllBe(k => IsEncrypted(k.Xml!));
        Provider(app, keys => keys.ProtectKeysWithCertificate(certificate).UnprotectKeysWithAnyCertificate(certificate))
            .CreateProtector("cookies")
            .Unprotect(before)
            .ShouldBe("Maren");
        Should.Throw<System.Security.Cryptography.CryptographicException>(() =>
            Provider(app, keys => keys).CreateProtector("cookies").Unprotect(before)
        );
    }

    [Fact]
    public async Task Processes_that_begin_at_once_share_one_file_that_only_their_user_reads()
    {
        var made = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Task.Run(() => KeyFile.Of(Path), Cancel)));
        made.Select(c => c.Thumbprint).Distinct().ShouldHaveSingleItem();
        File.GetUnixFileMode(Path).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
        Directory.GetFiles(folder).ShouldBe([Path]);
    }

    [Fact]
    public void A_file_that_holds_no_key_is_named_and_says_what_to_do()
    {
        File.WriteAllText(Path, "half a file");
        Should.Throw<InvalidOperationException>(() => KeyFile.Of(Path)).Message.ShouldContain("Put it back from a backup");
    }

    private static bool IsEncrypted(string xml) =>
        xml.Contains("encryptedSecret", StringComparison.Ordinal) && !xml.Contains("requiresEncryption", StringComparison.Ordinal);

    private static IDataProtectionProvider Provider(CursusApp app, Func<IDataProtectionBuilder, IDataProtectionBuilder> with)
    {
        var services = new ServiceCollection();
        services.AddLogging();
        services.AddScoped(_ => app.Database());
        with(services.AddDataProtection().SetApplicationName("Cursus").PersistKeysToDbContext<CursusDb>());
        return services.BuildServiceProvider().GetRequiredService<IDataProtectionProvider>();
    }
}

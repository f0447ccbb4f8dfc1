using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Cursus.Standins;

/// <summary>Shows a certificate for any name, as a server in front of Cursus would. Nobody trusts them; what matters is when they end.</summary>
internal sealed class Certificates(TimeProvider time)
{
    /// <summary>Names whose certificates nobody has renewed, with the days that are left.</summary>
    private static readonly Dictionary<string, int> EndingSoon = new(StringComparer.OrdinalIgnoreCase) { ["stars.localhost"] = 9 };

    private readonly ConcurrentDictionary<string, X509Certificate2> made = new(StringComparer.OrdinalIgnoreCase);

    public X509Certificate2 Of(string name) => made.GetOrAdd(name, Make);

    private X509Certificate2 Make(string name)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest($"CN={name}", key, HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        names.AddDnsName(name);
        request.CertificateExtensions.Add(names.Build());
        var now = time.GetUtcNow();
        using var signed = request.CreateSelfSigned(now.AddDays(-60), now.AddDays(EndingSoon.GetValueOrDefault(name, 80)));

        // A key made in memory is used by TLS only once it has been written and read again.
        return X509CertificateLoader.LoadPkcs12(signed.Export(X509ContentType.Pkcs12), password: null);
    }
}

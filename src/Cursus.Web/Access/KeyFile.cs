using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Xml.Linq;
using Cursus.Data;
using Microsoft.AspNetCore.DataProtection.XmlEncryption;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>
/// The keys by which cookies are sealed lie in the database, encrypted by a certificate that lies in a file apart from it, so that nobody can sign in
/// with what a backup of the database holds. All processes of an installation need the same file; without it everybody signs in again.
/// </summary>
internal static class KeyFile
{
    private const int KeyBits = 3072;

    private static readonly XNamespace DataProtection = "http://schemas.asp.net/2015/03/dataProtection";

    /// <summary>The certificate of the file, which is made where there is none.</summary>
    /// <exception cref="InvalidOperationException">The file is something else.</exception>
    public static X509Certificate2 Of(string path)
    {
        if (!File.Exists(path))
        {
            Make(path);
        }

        try
        {
            return X509CertificateLoader.LoadPkcs12FromFile(path, password: null);
        }
        catch (CryptographicException e)
        {
            throw new InvalidOperationException(
                $"{path} is no key file ({e.Message}). Put it back from a backup, or delete it: then a new one is made, and everybody signs in again.",
                e
            );
        }
    }

    /// <summary>Encrypts keys that an earlier version has left in the database as they are.</summary>
    public static async Task EncryptOld(CursusDb db, X509Certificate2 certificate, ILoggerFactory logs, CancellationToken cancel)
    {
        var encryptor = new CertificateXmlEncryptor(certificate, logs);
        foreach (var stored in await db.DataProtectionKeys.ToListAsync(cancel))
        {
            var key = XElement.Parse(stored.Xml!);
            var open = key.Descendants().Where(e => (bool?)e.Attribute(DataProtection + "requiresEncryption") == true).ToList();
            foreach (var secret in open)
            {
                var encrypted = encryptor.Encrypt(new XElement(secret));
                secret.ReplaceWith(
                    new XElement(
                        DataProtection + "encryptedSecret",
                        new XAttribute("decryptorType", encrypted.DecryptorType.AssemblyQualifiedName!),
                        encrypted.EncryptedElement
                    )
                );
            }

            if (open.Count > 0)
            {
                stored.Xml = key.ToString(SaveOptions.DisableFormatting);
            }
        }

        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Whole or not at all, and where two processes begin at once, one file for both.</summary>
    private static void Make(string path)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(path))!);
        using var key = RSA.Create(KeyBits);
        var request = new CertificateRequest("CN=Cursus data protection", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        using var certificate = request.CreateSelfSigned(DateTimeOffset.UnixEpoch, new DateTimeOffset(9999, 1, 1, 0, 0, 0, TimeSpan.Zero));
        var own = $"{path}.{Guid.NewGuid():N}";
        using (
            var file = new FileStream(
                own,
                new FileStreamOptions
                {
                    Mode = FileMode.CreateNew,
                    Access = FileAccess.Write,
                    UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
                }
            )
        )
        {
            file.Write(certificate.Export(X509ContentType.Pkcs12));
            file.Flush(flushToDisk: true);
        }

        try
        {
            File.Move(own, path, overwrite: false);
        }
        catch (IOException) when (File.Exists(path))
        {
            File.Delete(own);
        }
    }
}

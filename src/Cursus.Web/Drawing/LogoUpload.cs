using Cursus.Core;

namespace Cursus.Web.Drawing;

/// <summary>Reads the file of a logo that somebody uploads, as far as it may be large.</summary>
internal static class LogoUpload
{
    /// <summary>Larger files are not read.</summary>
    public const int MaxBytes = 1024 * 1024;

    /// <returns>The file, or the error that says why there is none.</returns>
    public static async Task<(byte[]? Content, ValidationError? Error)> Read(HttpRequest request, CancellationToken cancel)
    {
        var upload = new byte[MaxBytes + 1];
        var length = await request.Body.ReadAtLeastAsync(upload, upload.Length, throwOnEndOfStream: false, cancel);
        return length > MaxBytes
            ? (null, new ValidationError("logo-file-large", "The file is larger than 1 MB. Save a smaller logo and try again."))
            : (upload[..length], null);
    }
}

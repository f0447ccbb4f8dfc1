using System.IO.Compression;
using System.Text;

namespace Cursus.Web.Tests.Support;

/// <summary>All text in an answer, unpacked: so that what is looked for can't hide in a compressed file.</summary>
internal static class AnswerText
{
    /// <summary>Null for pictures, which hold no text.</summary>
    public static async Task<string?> Of(HttpResponseMessage response, CancellationToken cancel)
    {
        var bytes = await response.Content.ReadAsByteArrayAsync(cancel);
        return response.Content.Headers.ContentType?.MediaType switch
        {
            "image/png" => null,
            "application/pdf" => string.Join(' ', (await PdfWords.Of(bytes, cancel)).Select(w => w.Text)),
            "application/zip" or "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet" => Unpacked(bytes),
            "application/json"
            or "application/problem+json"
            or "application/x-ndjson"
            or "text/csv"
            or "text/html"
            or "text/plain"
            or "image/svg+xml" => Encoding.UTF8.GetString(bytes),
            null => "",
            var other => throw new InvalidOperationException($"Say how to find the text in an answer of type {other}."),
        };
    }

    private static string Unpacked(byte[] zip)
    {
        using var archive = new ZipArchive(new MemoryStream(zip));
        var text = new StringBuilder();
        foreach (var entry in archive.Entries)
        {
            using var reader = new StreamReader(entry.Open(), Encoding.UTF8);
            text.AppendLine(entry.FullName).AppendLine(reader.ReadToEnd());
        }

        return text.ToString();
    }
}

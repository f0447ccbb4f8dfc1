using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Archives;
using Cursus.Web.Archives;

namespace Cursus.Web.Tests.Archives;

/// <summary>Files that somebody has made to harm: whatever they hold, they are read or refused with a reason, soon.</summary>
public sealed class HostileArchiveTests(CursusApp app) : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("cursus-archives").FullName;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public async Task However_the_bytes_of_an_archive_are_changed_it_is_read_or_refused()
    {
        var archive = await Archive();
        var random = new Random(23);
        var refused = 0;
        for (var round = 0; round < 400; round++)
        {
            var changed = archive.ToArray();
            for (var change = random.Next(1, 6); change > 0; change--)
            {
                changed[random.Next(changed.Length)] ^= (byte)(1 << random.Next(8));
            }

            refused += await IsRefused(random.Next(4) == 0 ? changed[..random.Next(changed.Length)] : changed) ? 1 : 0;
        }

        refused.ShouldBeGreaterThan(300);
    }

    /// <summary>With checksums that are right, so that what the lines hold is looked at.</summary>
    [Fact]
    public async Task However_its_lines_are_changed_it_is_read_or_refused()
    {
        var (archive, random, refused) = (await Archive(), new Random(7), 0);
        for (var round = 0; round < 150; round++)
        {
            refused += await IsRefused(await WithLines(archive, lines => Changed(lines, random))) ? 1 : 0;
        }

        refused.ShouldBeInRange(50, 150);
    }

    [Theory]
    [InlineData("\"\\\\x0501\"")]
    [InlineData("\"not bytes\"")]
    [InlineData("\"\\\\xffffffff0f\"")]
    [InlineData("7")]
    [InlineData("null")]
    public async Task A_month_that_no_report_could_read_is_refused(string tally)
    {
        var month = $$"""{"link_id":"{{Guid.NewGuid()}}","month":"2025-01-01","kinds":{{tally}}}""";
        var refusal = await Should.ThrowAsync<ArchiveRefusedException>(async () =>
            await Open(await WithLines(await Archive(), lines => lines, ("link_months.ndjson", month + "\n")))
        );
        refusal.Message.ShouldContain("month");
    }

    [Theory]
    [InlineData("\"week_start\":1", "\"week_start\":9")]
    [InlineData("\"week_start\":1", "\"week_start\":\"Monday\"")]
    [InlineData("\"slug_kind\":0", "\"slug_kind\":70000")]
    [InlineData("\"options_pass_query\":0", "\"options_pass_query\":7")]
    public async Task A_choice_that_there_is_not_is_refused(string present, string hostile)
    {
        var archive = await Archive();
        var refusal = await Should.ThrowAsync<ArchiveRefusedException>(async () =>
            await Open(await WithLines(archive, lines => lines.Replace(present, hostile, StringComparison.Ordinal)))
        );
        refusal.Message.ShouldContain(present.Split('"')[1]);
    }

    private static string Changed(string lines, Random random)
    {
        string[] values =
        [
            "null",
            "\"\"",
            "-1",
            "1e400",
            "[]",
            "{}",
            "\"\\u0000\"",
            "\"\\ud800\"",
            "99999999999999999999",
            "true",
            new string('[', 5000),
            "\"" + new string('x', 70_000) + "\"",
        ];
        var colon = lines.IndexOf("\":", random.Next(Math.Max(1, lines.Length)), StringComparison.Ordinal);
        return random.Next(4) > 0 || colon < 0
            ? lines
            : lines[..(colon + 2)] + values[random.Next(values.Length)] + (random.Next(2) == 0 ? "," : "") + lines[(colon + 2)..];
    }

    private async Task<byte[]> Archive()
    {
        var world = await World.Make(app);
        await world.Send();
        return await (await world.Owner.GetAsync("/api/v1/archive", Cancel)).Content.ReadAsByteArrayAsync(Cancel);
    }

    private async Task<bool> IsRefused(byte[] archive)
    {
        try
        {
            await Open(archive);
            return false;
        }
        catch (ArchiveRefusedException)
        {
            return true;
        }
    }

    private async Task Open(byte[] archive)
    {
        var path = Path.Combine(folder, "archive.zip");
        await File.WriteAllBytesAsync(path, archive, Cancel);
        await using var opened = await ArchiveFile.Open(path, new ArchivedLineRules().Against, Cancel);
        foreach (var table in ArchiveTable.All)
        {
            await foreach (var _ in opened.Lines(table, Cancel)) { }
        }
    }

    /// <summary>The same archive with other lines, and a manifest that says so.</summary>
    private static async Task<byte[]> WithLines(byte[] archive, Func<string, string> change, (string Name, string Text)? instead = null)
    {
        using var from = new ZipArchive(new MemoryStream(archive));
        var made = new MemoryStream();
        using (var to = new ZipArchive(made, ZipArchiveMode.Create, leaveOpen: true))
        {
            JsonObject? manifest = null;
            var files = new Dictionary<string, byte[]>();
            foreach (var entry in from.Entries)
            {
                using var reader = new StreamReader(entry.Open());
                var text = await reader.ReadToEndAsync(Cancel);
                if (entry.FullName == "manifest.json")
                {
                    manifest = JsonNode.Parse(text)!.AsObject();
                }
                else
                {
                    files[entry.FullName] = Encoding.UTF8.GetBytes(entry.FullName == instead?.Name ? instead.Value.Text : change(text));
                }
            }

            foreach (var file in manifest!["files"]!.AsArray())
            {
                var bytes = files[(string)file!["name"]!];
                (file["bytes"], file["lines"], file["sha256"]) = (
                    bytes.LongLength,
                    bytes.LongCount(b => b == '\n'),
                    Convert.ToHexStringLower(SHA256.HashData(bytes))
                );
            }

            files["manifest.json"] = JsonSerializer.SerializeToUtf8Bytes(manifest);
            foreach (var (name, bytes) in files)
            {
                await using var entry = to.CreateEntry(name).Open();
                await entry.WriteAsync(bytes, Cancel);
            }
        }

        return made.ToArray();
    }
}

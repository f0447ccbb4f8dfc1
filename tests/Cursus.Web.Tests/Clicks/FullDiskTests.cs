using System.Diagnostics;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Journaling;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

/// <summary>The journal on a real disk that others fill: a small one in memory, which only those may mount who administrate the machine.</summary>
public sealed class FullDiskTests : IDisposable
{
    private const int SegmentSize = 64 * 1024;

    private readonly string disk = Directory.CreateTempSubdirectory("cursus-disk-").FullName;
    private readonly bool isMounted;

    public FullDiskTests() => isMounted = Run("mount", "-t", "tmpfs", "-o", "size=1m", "tmpfs", disk);

    public void Dispose()
    {
        if (isMounted)
        {
            Run("umount", "--lazy", disk);
        }

        Directory.Delete(disk);
    }

    [Fact]
    public void While_the_disk_is_full_clicks_are_lost_and_counted_and_when_there_is_room_they_are_kept_again()
    {
        Assert.SkipUnless(isMounted, "A small disk cannot be mounted here.");
        using var journal = new ClickJournal(Path.Combine(disk, "journal"), new JournalOptions(SegmentSize: SegmentSize));
        var others = Path.Combine(disk, "others");
        Fill(others);

        var kept = 0;
        while (journal.Lost < 100)
        {
            kept += journal.Append(Click(kept)) ? 1 : 0;
            kept.ShouldBeLessThan(1024 * 1024 / 100, "the disk holds no more than that");
        }

        var tries = journal.TriedOnTheWay;
        for (var more = 0; more < 100_000; more++)
        {
            journal.Append(Click(kept));
        }

        journal.TriedOnTheWay.ShouldBe(tries, "visitors must not look for room on the disk");
        File.Delete(others);
        while (!journal.Append(Click(kept)))
        {
            Thread.Sleep(1);
        }

        journal.Lost.ShouldBeGreaterThanOrEqualTo(100_100);
        journal.Read(0, int.MaxValue).Clicks.Select(c => c.Click.Visitor).ShouldBe(Enumerable.Range(0, kept + 1).Select(n => (long)n));
    }

    private static Visit Click(int number) =>
        new()
        {
            At = Instant.FromUnixTimeSeconds(1_795_000_000),
            LinkId = Guid.Empty,
            Visitor = number,
            ReferrerHost = "perch.localhost",
            UserAgent = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/1",
            Language = "en",
        };

    /// <summary>Takes all the room there is.</summary>
    private static void Fill(string path)
    {
        using var file = File.Create(path);
        try
        {
            while (true)
            {
                file.Write(new byte[4096]);
                file.Flush();
            }
        }
        catch (IOException)
        {
            // Full.
        }
    }

    private static bool Run(string program, params string[] arguments)
    {
        try
        {
            using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardError = true })!;
            process.WaitForExit();
            return process.ExitCode == 0;
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return false;
        }
    }
}

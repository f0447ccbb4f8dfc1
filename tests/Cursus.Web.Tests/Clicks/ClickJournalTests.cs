using CsCheck;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Retargeting;
using Cursus.Data.Clicks.Journaling;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

public sealed class ClickJournalTests : IDisposable
{
    private static readonly JournalOptions SmallSegments = new(SegmentSize: 4096);

    private static readonly Gen<Click> Clicks = Gen.Select(
            Gen.Long[0, 4_000_000_000_000],
            Gen.Guid,
            Gen.Enum<ClickKind>(),
            Gen.Long,
            Gen.String[Gen.Char["abc.ü日"], 0, 40],
            Gen.String[0, 400],
            Gen.Int[0, 2].Select(i => new[] { "", "GB", "DE" }[i]),
            Gen.Int
        )
        .Select(
            (at, link, kind, visitor, referrer, agent, country, bits) =>
                new Click(
                    Instant.FromUnixTimeMilliseconds(at),
                    link,
                    kind,
                    visitor,
                    CountryCode.Of(country),
                    ClientHints.OfByte((byte)(bits & 0x26)),
                    referrer,
                    string.Concat(agent.Where(c => !char.IsSurrogate(c))),
                    "en",
                    (byte)(bits % 3 == 0 ? 0 : bits),
                    (RequestSigns)((bits >> 8) & 0x7f),
                    bits
                )
        );

    private static readonly Gen<HandoffReport> Reports = Gen.Select(
            Gen.Long[0, 4_000_000_000_000],
            Gen.Guid,
            Gen.Long,
            Gen.Select(Gen.Guid, Gen.Enum<HandoffOutcome>()).Array[0, HandoffReport.MostPixels]
        )
        .Select(
            (at, link, visitor, pixels) =>
                new HandoffReport(Instant.FromUnixTimeMilliseconds(at), link, visitor, [.. pixels.Select(p => new PixelOutcome(p.Item1, p.Item2))])
        );

    private readonly string folder = Directory.CreateTempSubdirectory("cursus-journal-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public void What_was_appended_is_read_back_in_order_over_any_number_of_segments() =>
        Clicks
            .Array[0, 60]
            .Sample(
                clicks =>
                {
                    using var journal = Open(out _);
                    foreach (var click in clicks)
                    {
                        journal.Append(click.ToVisit()).ShouldBeTrue();
                    }

                    ReadAll(journal, 0).ShouldBe(clicks);
                },
                iter: 40,
                threads: 1
            );

    /// <summary>Clicks wait in the journal while Cursus is brought up to date.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    public void Clicks_that_an_earlier_version_wrote_are_read(int code)
    {
        var click = new Click(
            Instant.FromUtc(2026, 11, 2, 12, 0),
            Guid.NewGuid(),
            ClickKind.Person,
            7,
            CountryCode.Of("GB"),
            default,
            "perch.localhost",
            "Mozilla/5.0",
            "en",
            (byte)code,
            RequestSigns.Told,
            12
        );
        var bytes = new byte[ClickRecord.MaxLength];
        var length = ClickRecord.Write(click.ToVisit(), bytes);
        ClickRecord
            .Read(bytes.AsSpan(0, length - (code == 0 ? 6 : 5)), new TextPool())
            .ShouldBe(click with { Signs = RequestSigns.Untold, Network = 0 });
    }

    /// <summary>A file as it was written on 1 December 2026, with two clicks and a report on pixels.</summary>
    [Fact]
    public void A_file_that_an_earlier_version_wrote_is_read_to_the_last_event()
    {
        File.Copy(
            Path.Combine(AppContext.BaseDirectory, "Clicks", "Journals", "before-fields.clicks"),
            Path.Combine(folder, "00000000000000000000.clicks")
        );
        using var journal = new ClickJournal(folder, SmallSegments);
        var batch = journal.Read(0, 10);
        var (link, at) = (Guid.Parse("11111111-1111-1111-1111-111111111111"), Instant.FromUtc(2026, 12, 1, 9, 0));
        batch
            .Clicks.Select(c => c.Click)
            .ShouldBe([
                new Click(
                    at,
                    link,
                    ClickKind.Person,
                    41,
                    CountryCode.Of("DE"),
                    ClientHints.Read("\"Android\"", "?1", ""),
                    "perch.example",
                    "Mozilla/5.0 (X11; Linux x86_64) Perch/1.0 ü",
                    "de",
                    2,
                    (RequestSigns)21,
                    77
                ),
                new Click(
                    at + Duration.FromSeconds(2),
                    Guid.Parse("44444444-4444-4444-4444-444444444444"),
                    ClickKind.Head,
                    -5,
                    default,
                    default,
                    "",
                    "",
                    "",
                    0,
                    default,
                    0
                ),
            ]);
        var report = batch.Reports.ShouldHaveSingleItem().Report;
        (report.At, report.LinkId, report.Visitor).ShouldBe((at + Duration.FromSeconds(1), link, 41));
        report.Pixels.ShouldBe([
            new PixelOutcome(Guid.Parse("22222222-2222-2222-2222-222222222222"), HandoffOutcome.Fired),
            new PixelOutcome(Guid.Parse("33333333-3333-3333-3333-333333333333"), HandoffOutcome.Missed),
        ]);
    }

    /// <summary>Whoever steps back by a version finds clicks in the journal that the later one has written.</summary>
    [Fact]
    public void A_click_with_fields_of_a_later_version_is_read_without_them() =>
        Clicks.Sample(click =>
        {
            var bytes = new byte[ClickRecord.MaxLength + 10];
            var length = ClickRecord.Write(click.ToVisit(), bytes);
            byte[] field = [200, 2, 0, 1, 2, 201, 0, 0];
            field.CopyTo(bytes.AsSpan(length));
            ClickRecord.Read(bytes.AsSpan(0, length + field.Length), new TextPool()).ShouldBe(click);
        });

    [Fact]
    public void Events_that_only_a_later_version_knows_are_passed_over_and_their_files_kept()
    {
        var clicks = Clicks.Array[60].Single();
        using var journal = Open(out var path);
        var unknown = new byte[40];
        unknown[ClickRecord.KindAt] = 0x81;
        foreach (var click in clicks)
        {
            journal.Append(click.ToVisit());
            _ = click != clicks[0] || journal.Append(unknown);
        }

        ReadAll(journal, 0).ShouldBe(clicks);
        journal.Read(0, 1000).Clicks.Count.ShouldBe(clicks.Length);
        (journal.Unknown, journal.Damaged).ShouldBe((1, 0));
        journal.Forget(journal.End);
        Directory.GetFiles(Path.Combine(path, "newer")).Select(Path.GetFileName).ShouldBe(["00000000000000000000.clicks"]);
        Directory.GetFiles(path, "*.clicks").Length.ShouldBe(1, "the others are forgotten as ever");
    }

    /// <summary>Reports on pixels lie between the clicks and are told from them.</summary>
    [Fact]
    public void Reports_on_pixels_come_back_between_the_clicks_each_as_it_was() =>
        Gen.Select(Clicks.Array[0, 30], Reports.Array[0, 30], Gen.Int[1, 9])
            .Sample(
                (clicks, reports, most) =>
                {
                    using var journal = Open(out _);
                    for (var i = 0; i < Math.Max(clicks.Length, reports.Length); i++)
                    {
                        _ = i >= clicks.Length || journal.Append(clicks[i].ToVisit());
                        _ = i >= reports.Length || journal.Append(reports[i]);
                    }

                    var (readClicks, readReports, from) = (new List<Click>(), new List<HandoffReport>(), 0L);
                    while (journal.Read(from, most) is { Count: > 0 } batch)
                    {
                        batch.Count.ShouldBeLessThanOrEqualTo(most);
                        batch.Oldest.ShouldNotBeNull();
                        readClicks.AddRange(batch.Clicks.Select(c => c.Click));
                        readReports.AddRange(batch.Reports.Select(r => r.Report));
                        from = batch.Next;
                    }

                    readClicks.ShouldBe(clicks);
                    readReports.Select(Said).ShouldBe(reports.Select(Said));
                    journal.Read(from, most).Oldest.ShouldBeNull();
                    static string Said(HandoffReport r) => $"{r.At} {r.LinkId} {r.Visitor} {string.Join(", ", r.Pixels)}";
                },
                iter: 40,
                threads: 1
            );

    [Fact]
    public void A_journal_that_is_opened_again_goes_on_where_it_ended() =>
        Gen.Select(Clicks.Array[1, 40], Clicks.Array[1, 40])
            .Sample(
                (before, after) =>
                {
                    using (var journal = Open(out var path))
                    {
                        Array.ForEach(before, c => journal.Append(c.ToVisit()));
                        // What a killed process leaves behind: the files as they are in this moment, nothing closed.
                        CopyTo(path, path + "-after-kill");
                    }

                    using var again = new ClickJournal(Last + "-after-kill", SmallSegments);
                    Array.ForEach(after, c => again.Append(c.ToVisit()));
                    ReadAll(again, 0).ShouldBe([.. before, .. after]);
                },
                iter: 20,
                threads: 1
            );

    [Fact]
    public void A_torn_last_record_is_passed_over_and_written_over()
    {
        var clicks = Clicks.Array[3].Single();
        using (var journal = Open(out _))
        {
            Array.ForEach(clicks, c => journal.Append(c.ToVisit()));
        }

        var file = Directory.GetFiles(Last, "*.clicks").Single();
        var bytes = File.ReadAllBytes(file);
        var end = Array.FindLastIndex(bytes, b => b != 0);
        bytes[end] ^= 0xff;
        File.WriteAllBytes(file, bytes);

        using var again = new ClickJournal(Last, SmallSegments);
        ReadAll(again, 0).ShouldBe(clicks[..2]);
        again.Append(clicks[2].ToVisit());
        ReadAll(again, 0).ShouldBe(clicks);
    }

    /// <summary>Disks change bits; whatever lies behind one is read all the same.</summary>
    [Fact]
    public void Wherever_bytes_are_changed_every_other_click_is_read_and_the_file_is_kept() =>
        Gen.Select(Clicks.Array[40, 80], Gen.Select(Gen.Int[0, 100_000], Gen.Byte[1, 255], Gen.Int[1, 40]).Array[1, 3])
            .Sample(
                (clicks, changes) =>
                {
                    string path;
                    using (var journal = Open(out path))
                    {
                        Array.ForEach(clicks, c => journal.Append(c.ToVisit()));
                    }

                    var files = Directory.GetFiles(path, "*.clicks").Order(StringComparer.Ordinal).ToList();
                    var touched = 0;
                    foreach (var (where, mask, length) in changes)
                    {
                        var bytes = File.ReadAllBytes(files[0]);
                        var at = where % (bytes.Length / 2);
                        for (var i = at; i < at + length; i++)
                        {
                            bytes[i] ^= mask;
                        }

                        touched += 2 + length / 48;
                        File.WriteAllBytes(files[0], bytes);
                    }

                    using var again = new ClickJournal(path, SmallSegments);
                    var read = ReadAll(again, 0);
                    read.ShouldBe(clicks.Where(read.ToHashSet().Contains), "in order, and none that was never written");
                    read.Count.ShouldBeGreaterThanOrEqualTo(clicks.Length - touched);
                    (again.Damaged > 0).ShouldBe(read.Count < clicks.Length);
                    again.Damaged.ShouldBeLessThanOrEqualTo(clicks.Length - read.Count);
                    again.Forget(again.End);
                    (Directory.Exists(Path.Combine(path, "damaged")) ? Directory.GetFiles(Path.Combine(path, "damaged")) : [])
                        .Select(Path.GetFileName)
                        .ShouldBe(again.Damaged > 0 && files.Count > 1 ? [Path.GetFileName(files[0])] : []);
                },
                iter: 60,
                threads: 1
            );

    [Fact]
    public void Nobody_but_the_server_reads_what_visitors_sent()
    {
        using var journal = Open(out var path);
        Array.ForEach(Clicks.Array[60].Single(), c => journal.Append(c.ToVisit()));
        var files = Directory.GetFiles(path).Where(f => Path.GetExtension(f) is ".clicks" or ".key").ToList();
        files.Count.ShouldBeGreaterThan(2);
        files.ShouldAllBe(f => File.GetUnixFileMode(f) == (UnixFileMode.UserRead | UnixFileMode.UserWrite));
    }

    [Fact]
    public void Only_segments_that_were_shipped_whole_are_forgotten()
    {
        var clicks = Clicks.Array[60].Single();
        using var journal = Open(out _);
        Array.ForEach(clicks, c => journal.Append(c.ToVisit()));
        var half = journal.Read(0, 30);
        half.Count.ShouldBe(30);

        journal.Forget(half.Next);

        ReadAll(journal, half.Next).ShouldBe(clicks[30..]);
        Directory.GetFiles(Last, "*.clicks").Length.ShouldBeGreaterThan(0);
    }

    [Fact]
    public void A_full_journal_loses_what_it_cannot_hold_counts_it_and_goes_on_when_there_is_room() =>
        Clicks.Sample(
            click =>
            {
                var path = Path.Combine(folder, Guid.NewGuid().ToString("N"));
                using var journal = new ClickJournal(path, new JournalOptions(SegmentSize: 4096, MaxSize: 3 * 4096));
                var written = 0;
                while (journal.Append(click.ToVisit()))
                {
                    written++;
                }

                journal.Append(click.ToVisit()).ShouldBeFalse();
                (journal.Lost, journal.Fullness).ShouldBe((2, 1.0));
                var read = journal.Read(0, written);
                read.Count.ShouldBe(written);
                journal.Forget(read.Next);
                journal.Append(click.ToVisit()).ShouldBeTrue();
                journal.Read(read.Next, 10).Clicks.ShouldHaveSingleItem().Click.ShouldBe(click);
            },
            iter: 100,
            threads: 1
        );

    /// <summary>A file is made ahead, and where clicks come faster than that another on the way: neither may be written to under the other's
    /// name.</summary>
    [Fact]
    public void Of_two_files_made_for_the_same_place_one_is_begun_and_what_is_written_to_it_is_found_again()
    {
        var place = Directory.CreateDirectory(Path.Combine(folder, "twice")).FullName;
        var (first, second) = (JournalSegment.Prepare(place, 0, 4096), JournalSegment.Prepare(place, 0, 4096));
        first.TryBegin().ShouldBeTrue();
        second.TryBegin().ShouldBeFalse();
        first.TryAppend("a click"u8).ShouldBeTrue();
        first.Flush();
        first.Dispose();
        using var again = JournalSegment.Open(Directory.GetFiles(place).ShouldHaveSingleItem());
        again.TryRead(0, out var content, out _).ShouldBeTrue();
        content.SequenceEqual("a click"u8).ShouldBeTrue();
    }

    /// <summary>A database that was away from the very start has shipped nothing yet when the second file begins.</summary>
    [Fact]
    public void A_file_is_not_passed_over_where_the_next_one_began_before_anything_was_shipped()
    {
        var clicks = Clicks.Array[80].Single();
        string path;
        using (var journal = Open(out path))
        {
            Array.ForEach(clicks, c => journal.Append(c.ToVisit()));
        }

        Directory.GetFiles(path, "*.clicks").Length.ShouldBeGreaterThan(2);
        using var again = new ClickJournal(path, SmallSegments);
        ReadAll(again, 0).ShouldBe(clicks);
        var next = again.Read(0, 1).Next;
        again.Forget(next);
        ReadAll(again, next).ShouldBe(clicks[1..]);
    }

    /// <summary>Where each answer waits for the disk, flushes and appends cross at any moment; none may wait for ever and none be told
    /// twice.</summary>
    [Fact]
    public async Task Whoever_waits_for_the_disk_is_told_once_and_soon()
    {
        using var journal = new ClickJournal(
            Path.Combine(folder, Guid.NewGuid().ToString("N")),
            new JournalOptions(Durability.Commit, SegmentSize: 1 << 16)
        );
        var click = Clicks.Single();
        await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(_ =>
                    Task.Run(
                        async () =>
                        {
                            for (var i = 0; i < 25; i++)
                            {
                                journal.Append(click.ToVisit()).ShouldBeTrue();
                                await journal.WhenSafe().WaitAsync(TimeSpan.FromSeconds(20), TestContext.Current.CancellationToken);
                            }
                        },
                        TestContext.Current.CancellationToken
                    )
                )
        );
        ReadAll(journal, 0).Count.ShouldBe(200);
    }

    [Fact]
    public void One_journal_has_one_owner()
    {
        using var journal = Open(out var path);
        Should.Throw<IOException>(() => new ClickJournal(path, SmallSegments));
    }

    private string Last { get; set; } = "";

    private ClickJournal Open(out string path)
    {
        path = Last = Path.Combine(folder, Guid.NewGuid().ToString("N"));
        return new ClickJournal(path, SmallSegments);
    }

    private static List<Click> ReadAll(ClickJournal journal, long from)
    {
        var read = new List<Click>();
        while (journal.Read(from, 7) is { Count: > 0 } batch)
        {
            read.AddRange(batch.Clicks.Select(b => b.Click));
            from = batch.Next;
        }

        return read;
    }

    private static void CopyTo(string from, string to)
    {
        Directory.CreateDirectory(to);
        foreach (var file in Directory.GetFiles(from).Where(f => !f.EndsWith(".lock", StringComparison.Ordinal)))
        {
            File.Copy(file, Path.Combine(to, Path.GetFileName(file)));
        }
    }
}

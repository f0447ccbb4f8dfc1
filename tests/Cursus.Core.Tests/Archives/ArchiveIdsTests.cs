using Cursus.Core.Archives;

namespace Cursus.Core.Tests.Archives;

/// <summary>Ids of an archive on their way into a workspace, and what is refused before anything is unpacked.</summary>
public class ArchiveIdsTests
{
    private static readonly Guid From = Guid.Parse("01990000-0000-7000-8000-000000000001");
    private static readonly Guid Into = Guid.Parse("01990000-0000-7000-8000-000000000002");
    private static readonly Guid Link = Guid.Parse("0199aaaa-bbbb-7ccc-8ddd-eeeeffff0001");
    private static readonly Guid Maren = Guid.Parse("0199aaaa-bbbb-7ccc-8ddd-eeeeffff0002");
    private static readonly Guid Tobias = Guid.Parse("0199aaaa-bbbb-7ccc-8ddd-eeeeffff0003");
    private static readonly Guid MarenHere = Guid.Parse("0199aaaa-bbbb-7ccc-8ddd-eeeeffff0004");

    [Fact]
    public void Whatever_the_archive_brings_gets_a_new_id_wherever_it_is_named()
    {
        var placed = Ids(isKept: false)
            .Place(
                $$"""{"id":"{{Link}}","workspace_id":"{{From}}","state":{"linkId":"{{Link}}"},"question":"by=link&link={{Link}}&a={{Guid.Empty}}"}"""
            );
        var made = Ids(isKept: false).New(Link);
        made.ShouldNotBe(Link);
        placed.ShouldBe(
            $$"""{"id":"{{made}}","workspace_id":"{{Into}}","state":{"linkId":"{{made}}"},"question":"by=link&link={{made}}&a={{Guid.Empty}}"}"""
        );
    }

    [Fact]
    public void Where_nothing_can_be_mixed_up_ids_stay() =>
        Ids(isKept: true).Place($$"""{"id":"{{Link}}","workspace_id":"{{From}}"}""").ShouldBe($$"""{"id":"{{Link}}","workspace_id":"{{Into}}"}""");

    [Fact]
    public void Members_are_who_they_are_here_or_nobody() =>
        Ids(isKept: true)
            .Place($$"""{"created_by":"{{Maren}}","changed_by":"{{Tobias}}"}""")
            .ShouldBe($$"""{"created_by":"{{MarenHere}}","changed_by":null}""");

    [Fact]
    public void An_id_that_the_archive_does_not_bring_is_text_like_any_other()
    {
        var line = $$"""{"destination":"https://www.northmoor.example/{{Guid.NewGuid()}}"}""";
        Ids(isKept: false).Place(line).ShouldBe(line);
    }

    [Fact]
    public void New_ids_are_the_same_each_time_another_for_each_workspace_and_in_the_order_of_the_old_ones()
    {
        Ids(isKept: false).New(Link).ShouldBe(Ids(isKept: false).New(Link));
        new ArchiveIds(From, Guid.NewGuid(), new HashSet<Guid>(), new Dictionary<Guid, Guid?>(), isKept: false)
            .New(Link)
            .ShouldNotBe(Ids(isKept: false).New(Link));
        var made = Enumerable
            .Range(0, 50)
            .Select(n => Guid.CreateVersion7(DateTimeOffset.UnixEpoch.AddSeconds(1_790_000_000 + n)))
            .Select(Ids(isKept: false).New)
            .ToList();
        made.Select(m => m.ToString()).ShouldBe(made.Select(m => m.ToString()).Order(StringComparer.Ordinal));
        made.ShouldAllBe(m => m.Version == 7 && (m.Variant & 0xc) == 8);
    }

    [Theory]
    [InlineData(1, "links.ndjson manifest.json", 1_000, null)]
    [InlineData(2, "links.ndjson manifest.json", 1_000, "archive-format")]
    [InlineData(1, "links.ndjson manifest.json ../links.ndjson", 1_000, "archive-files")]
    [InlineData(1, "links.ndjson links.ndjson", 1_000, "archive-files")]
    [InlineData(1, "manifest.json", 1_000, "archive-files")]
    [InlineData(1, "links.ndjson manifest.json", 40_000_000, "archive-too-large")]
    [InlineData(1, "links.ndjson manifest.json", -1, "archive-too-large")]
    public void What_is_no_archive_is_refused_before_it_is_unpacked(int format, string names, long bytes, string? code) =>
        (
            new ArchiveManifest(format, "Northmoor", From, "2026-11-26T06:00:00Z", [new("links.ndjson", 1, bytes, "")])
                .Against(names.Split(' '), ["links.ndjson"], packed: 1_000)
                ?.Code
        ).ShouldBe(code);

    private static ArchiveIds Ids(bool isKept) =>
        new(From, Into, new HashSet<Guid> { Link }, new Dictionary<Guid, Guid?> { [Maren] = MarenHere, [Tobias] = null }, isKept);
}

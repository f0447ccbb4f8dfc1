using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Data.Batches;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Links.Saving;
using Cursus.Web.Runs;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>Makes the links of a plan with their posts, all or none, and notes what became of each line.</summary>
internal sealed class BatchMaking(CursusDb db, LinkSaving saving, TakingOver takingOver, IClock clock)
{
    /// <summary>The shortest time that the database tells apart.</summary>
    private const int TicksOfMicrosecond = 10;

    /// <summary>Null where all went well; else why nothing was saved.</summary>
    public async Task<string?> Make(Batch batch, BatchPlan plan, bool isGoodOnly, CurrentMember member, LongRun run)
    {
        var leftOut = plan.LeftOut.ToList();
        var lines = plan.Links.Where(l => l.TakesOver is null).ToList();
        while (true)
        {
            var now = clock.GetCurrentInstant();
            var (_, taken) = await saving.Save(
                [.. lines.Select(l => l.Link)],
                member,
                now,
                links => Alongside(batch, plan, lines, links, leftOut, member, run, now),
                run.Cancelled,
                run
            );
            if (taken.Count == 0)
            {
                return null;
            }

            // Between preview and saving somebody else took a slug.
            var lost = taken
                .Select(t => new LeftOutLine(
                    lines[t.Place].Line,
                    LineOutcome.Refused,
                    lines[t.Place].Link.Destination.AsEntered,
                    $"“{t.State.Slug}” has just been taken. Try {string.Join(", ", t.State.Alternatives)}."
                ))
                .ToList();
            if (!isGoodOnly)
            {
                return $"Line {lost[0].Line}: {lost[0].Remark} No links were created. Correct the list, or use only the valid lines.";
            }

            leftOut.AddRange(lost);
            lines = [.. lines.Where(l => lost.TrueForAll(t => t.Line != l.Line))];
            if (lines.Count == 0)
            {
                return "Every slug in the list has just been taken. No links were created.";
            }
        }
    }

    private SavedBeside Alongside(
        Batch batch,
        BatchPlan plan,
        List<PlannedLine> lines,
        IReadOnlyList<Link> links,
        List<LeftOutLine> leftOut,
        CurrentMember member,
        LongRun run,
        Instant now
    )
    {
        for (var place = 0; place < links.Count; place++)
        {
            (links[place].CreatedAt, links[place].ImportedClicks) = (At(lines[place], place, now), lines[place].Past.ImportedClicks);
        }

        var takenOver = plan.Links.Where(l => l.TakesOver is not null).ToList();
        var folders = plan.NewFolders;
        db.AddRange(folders);
        (batch.DoneAt, batch.Content, batch.FolderIds) = (now, null, [.. folders.Select(f => f.Id)]);
        db.Update(batch);
        var made = lines
            .Zip(links, (line, link) => Told(batch, line, link.Id))
            .Concat(takenOver.Select(line => Told(batch, line, line.TakesOver!.Value)));
        var notMade = leftOut.Select(line => new BatchLine
        {
            BatchId = batch.Id,
            Line = line.Line,
            Outcome = line.Outcome,
            Address = line.Address,
            Problem = line.Remark,
        });
        return new SavedBeside([.. Posts(lines, links, member, now)], [.. made, .. notMade])
        {
            Then = () => takingOver.Write(batch, takenOver, member, links.Count, run, now),
        };
    }

    private static BatchLine Told(Batch batch, PlannedLine line, Guid link) =>
        new()
        {
            BatchId = batch.Id,
            Line = line.Line,
            Outcome = line.Outcome,
            LinkId = link,
            Problem = line.Remark,
        };

    private static IEnumerable<Post> Posts(List<PlannedLine> lines, IReadOnlyList<Link> links, CurrentMember member, Instant now)
    {
        var grouped = lines.Select(l =>
            l.Link is { Channel: { } channel, Campaign: { } campaign } link
                ? new GroupedLink(link.Destination.AsEntered, link.Title, campaign.Key, channel.Key, link.Utm?.Content?.Text)
                : null
        );
        foreach (var places in PostGroups.Of([.. grouped]))
        {
            var first = lines[places[0]];
            var post = new Post
            {
                WorkspaceId = member.WorkspaceId,
                Title = first.Link.Title,
                Destination = first.Link.Destination.AsEntered,
                CampaignId = first.Link.Campaign!.Id,
                PublishedOn = first.Past.PublishedOn,
                CreatedAt = At(first, places[0], now),
                CreatedBy = member.Id,
            };
            post.Placements.AddRange(
                places.Select(
                    (place, i) =>
                        new Placement
                        {
                            PostId = post.Id,
                            LinkId = links[place].Id,
                            Variant = lines[place].Link.Utm?.Content?.Text,
                            Position = i,
                        }
                )
            );
            foreach (var place in places)
            {
                links[place].CreatedAt = post.CreatedAt;
            }

            yield return post;
        }
    }

    /// <summary>When the line says it was made; else a moment apart, so that they stand in the list's order wherever the newest come first.</summary>
    private static Instant At(PlannedLine line, int place, Instant now) =>
        line.Past.CreatedAt ?? now - Duration.FromTicks(place * TicksOfMicrosecond);
}

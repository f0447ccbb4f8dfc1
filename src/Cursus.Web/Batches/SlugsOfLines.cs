using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Web.Addresses;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>Finds out which slugs of a list are taken, does with them what was chosen, and gives readable ones where those were asked for.</summary>
internal static class SlugsOfLines
{
    /// <summary>The lines with their slugs and what becomes of them, those with <see cref="LineOutcome.Skipped"/> and
    /// <see cref="LineOutcome.Refused"/> among them.</summary>
    public static async Task<IReadOnlyList<PlannedLine>> Choose(
        IReadOnlyList<PlannedLine> lines,
        SlugKind kind,
        TakenSlug taken,
        CursusDb db,
        Instant now,
        CancellationToken cancel
    )
    {
        var otherwise = taken switch
        {
            TakenSlug.Rename => SlugElse.TakesAnother,
            TakenSlug.Skip or TakenSlug.TakeOver => SlugElse.Nothing,
            _ => SlugElse.OffersOthers,
        };

        bool Asks(PlannedLine line) => line.Link.Slug is not null || kind == SlugKind.Readable;
        var requests = lines
            .Where(Asks)
            .Select(l => new SlugRequest(l.Link.Domain.Id, l.Link.Slug, l.Link.Title, l.Link.Channel?.Key ?? "", otherwise))
            .ToList();
        var states = new Queue<SlugState>(await SlugCheck.Run(db, requests, now, cancel));
        var takenOver = new HashSet<Guid>();
        return [.. lines.Select(l => Asks(l) ? With(l, states.Dequeue(), taken, takenOver) : l)];
    }

    private static PlannedLine With(PlannedLine line, SlugState state, TakenSlug choice, HashSet<Guid> takenOver)
    {
        if (line.Link.Slug is not { } wanted)
        {
            return line with { Link = line.Link with { Slug = Slug.Of(state.Slug) } };
        }

        if (!state.IsTaken && state.Slug != wanted.Text)
        {
            return line with
            {
                Link = line.Link with { Slug = Slug.Of(state.Slug) },
                Outcome = LineOutcome.Renamed,
                Remark = $"“{wanted}” is already taken, so this link gets “{state.Slug}”.",
            };
        }

        var holder = HolderOf(state, takenOver);
        var outcome = TakenSlugs.Outcome(choice, holder);
        if (outcome == LineOutcome.TakenOver)
        {
            takenOver.Add(state.Holder!.LinkId);
        }

        return line with
        {
            Outcome = outcome,
            TakesOver = outcome == LineOutcome.TakenOver ? state.Holder!.LinkId : null,
            Remark = Told(wanted, state, holder, outcome),
        };
    }

    private static SlugHolder HolderOf(SlugState state, HashSet<Guid> takenOver) =>
        state switch
        {
            { IsTaken: false } => SlugHolder.Nobody,
            { Holder: null } => SlugHolder.EarlierLine,
            { Holder.DeletedAt: not null } => SlugHolder.DeletedLink,
            { Holder.IsFormer: true } => SlugHolder.FormerAddress,
            _ => takenOver.Contains(state.Holder.LinkId) ? SlugHolder.EarlierLine : SlugHolder.Link,
        };

    private static string? Told(Slug wanted, SlugState state, SlugHolder holder, LineOutcome outcome)
    {
        var by = holder switch
        {
            SlugHolder.EarlierLine => "is on an earlier line",
            SlugHolder.DeletedLink => "is reserved for a deleted link",
            SlugHolder.FormerAddress => "is an earlier address of another link",
            _ => "is taken",
        };
        return outcome switch
        {
            LineOutcome.Made => null,
            LineOutcome.Refused when state.Alternatives.Count > 0 => $"“{wanted}” {by}. Try {string.Join(", ", state.Alternatives)}.",
            LineOutcome.TakenOver => $"“{wanted}” already exists and will be updated from this line.",
            _ => $"“{wanted}” {by}.",
        };
    }
}

using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Data.Clicks.Sums;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>
/// Tells clicks by what visitors do (<see cref="BehaviourWatch"/>), where the workspace wants it, before they are stored. That somebody opens links
/// in a sweep shows with the fourth of them; what was stored of the same sweep until then is taken back. Sees what one process has answered: a
/// scanner that is spread over several is seen by none.
/// </summary>
internal sealed class WatchedBehaviour
{
    private readonly BehaviourWatch watch = new();

    /// <summary>Gives clicks of a batch the kinds that behaviour tells.</summary>
    /// <returns>Clicks stored before that belong to a sweep.</returns>
    public List<(long Id, Instant At)> Mark(LinkHomes homes, IReadOnlySet<Guid> workspacesWithout, List<ReadClick> clicks)
    {
        var swept = new List<(long Id, Instant At)>();
        foreach (var place in InTime(clicks))
        {
            var read = clicks[place];
            if (!read.IsStored && homes.Of(read.Click.LinkId) is { } home && !workspacesWithout.Contains(home.WorkspaceId))
            {
                var kind = watch.Judge(
                    new(
                        read.Id,
                        read.Click.At,
                        read.Click.LinkId,
                        home.WorkspaceId,
                        read.Click.Visitor,
                        read.Click.Network,
                        AgentOf(read.Click),
                        read.Told.Kind
                    ),
                    swept
                );
                clicks[place] = read with { Told = read.Told with { Kind = kind } };
            }
        }

        return swept.Count == 0 ? swept : MarkEarlier(clicks, swept);
    }

    /// <summary>Workspaces that want no clicks to be left out for what visitors do.</summary>
    public static async Task<IReadOnlySet<Guid>> WorkspacesWithout(NpgsqlConnection connection, CancellationToken cancel)
    {
        var workspaces = new HashSet<Guid>();
        await using var command = new NpgsqlCommand("select id from workspaces where not leaves_out_by_behaviour", connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            workspaces.Add(reader.GetGuid(0));
        }

        return workspaces;
    }

    /// <summary>Takes back clicks that were stored as people's.</summary>
    public static async Task TakeBack(
        NpgsqlConnection connection,
        LinkHomes homes,
        RecentDays recent,
        IReadOnlyCollection<(long Id, Instant At)> swept,
        CancellationToken cancel
    )
    {
        var days = new HashSet<(Guid Link, LocalDate Day)>();
        await using (
            var update = new NpgsqlCommand(
                $"update clicks set kind = {(int)ClickKind.Sweep} where kind = {(int)ClickKind.Person} and id = any($1) and at between $2 and $3 returning link_id, at",
                connection
            )
            {
                Parameters =
                {
                    new() { Value = swept.Select(s => s.Id).ToArray() },
                    new() { Value = swept.Min(s => s.At) },
                    new() { Value = swept.Max(s => s.At) },
                },
                CommandTimeout = 0,
            }
        )
        await using (var reader = await update.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                if (homes.Of(reader.GetGuid(0)) is { } home)
                {
                    days.Add((reader.GetGuid(0), reader.GetFieldValue<Instant>(1).InZone(home.Zone).Date));
                }
            }
        }

        if (days.Count > 0)
        {
            await DayRollUp.CountAnew(connection, recent, await SealedRollUp.Until(connection, cancel) ?? LocalDate.MinIsoValue, days, cancel);
            await TotalRollUp.CountAnew(connection, [.. days.Select(d => d.Link).Distinct()], cancel);
        }
    }

    /// <summary>Marks what is in the batch itself; gives what isn't.</summary>
    private static List<(long Id, Instant At)> MarkEarlier(List<ReadClick> clicks, List<(long Id, Instant At)> swept)
    {
        var inBatch = swept.Select(s => s.Id).ToHashSet();
        for (var i = 0; i < clicks.Count; i++)
        {
            if (inBatch.Contains(clicks[i].Id) && clicks[i].Told.Kind == ClickKind.Person)
            {
                clicks[i] = clicks[i] with { Told = clicks[i].Told with { Kind = ClickKind.Sweep } };
            }
        }

        var here = clicks.Select(c => c.Id).ToHashSet();
        return swept.FindAll(s => !here.Contains(s.Id));
    }

    /// <summary>Tells texts apart of which the database keeps nothing, too.</summary>
    private static int AgentOf(in Click click) => HashCode.Combine(click.UserAgent, click.Hints, click.Signs);

    /// <summary>The places of the clicks in the order of time.</summary>
    private static int[] InTime(List<ReadClick> clicks)
    {
        var (keys, places) = (new (Instant, long)[clicks.Count], new int[clicks.Count]);
        for (var place = 0; place < places.Length; place++)
        {
            (keys[place], places[place]) = ((clicks[place].Click.At, clicks[place].Id), place);
        }

        Array.Sort(keys, places);
        return places;
    }
}

using Cursus.Core.Clicks;
using Cursus.Core.Comparing;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Comparing;

/// <summary>Counts clicks in the database for a <see cref="Question"/>.</summary>
internal sealed class Counting(NpgsqlDataSource dataSource)
{
    /// <summary>Clicks and visitors of each kind in the period.</summary>
    public sealed record KindCount(ClickKind Kind, long Clicks, long Visitors);

    /// <summary>Clicks of one group in one step of time, which begins at this local time.</summary>
    public sealed record StepCount(LocalDateTime At, string Key, long Clicks);

    public Task<List<KindCount>> ByKind(Question question, CancellationToken cancel) => Read(
        question,
        $"""
        select c.kind, count(*), count(distinct c.visitor)
        from clicks c join links l on l.id = c.link_id {Dimension.Joins} {Dimension.JoinsFor(null, question.Filters.Keys)}
        where l.workspace_id = @workspace and c.at >= @start and c.at < @end {Where(question)}
        group by 1
        """,
        row => new KindCount((ClickKind)row.GetInt16(0), row.GetInt64(1), row.GetInt64(2)),
        cancel);

    /// <summary>People's clicks and visitors for each group, groups without clicks included where they had a placement in the period.</summary>
    public async Task<IReadOnlyList<GroupCount>> ByGroup(Question question, CancellationToken cancel)
    {
        var dimension = Dimension.All[question.By];
        var before = question.Before is null ? "" : "or (c.at >= @beforeStart and c.at < @beforeEnd)";
        var previous = question.Before is null ? "0" : "count(*) filter (where c.at >= @beforeStart and c.at < @beforeEnd)";
        var clicks = await Read(
            question,
            $"""
            select {dimension.Key}, {dimension.Label},
                count(*) filter (where c.at >= @start and c.at < @end),
                count(distinct c.visitor) filter (where c.at >= @start and c.at < @end),
                {previous}
            from clicks c join links l on l.id = c.link_id {Dimension.Joins} {Dimension.JoinsFor(question.By, question.Filters.Keys)}
            where l.workspace_id = @workspace and c.kind = 0 and ((c.at >= @start and c.at < @end) {before}) {Where(question)}
            group by 1, 2
            """,
            row => new GroupCount(row.GetString(0), Label(question.By, row.GetString(1)), row.GetInt64(2), row.GetInt64(3), question.Before is null ? null : row.GetInt64(4), 0),
            cancel);
        if (!dimension.IsOfLink)
        {
            return clicks;
        }

        var groups = clicks.ToDictionary(g => g.Key);
        foreach (var placed in await Placements(question, dimension, cancel))
        {
            groups[placed.Key] = groups.TryGetValue(placed.Key, out var group)
                ? group with { Placements = placed.Placements }
                : placed with { PreviousClicks = question.Before is null ? null : 0 };
        }

        return [.. groups.Values];
    }

    /// <summary>People's clicks of each group over time, in steps of the workspace's calendar.</summary>
    /// <param name="step"><c>hour</c>, <c>day</c>, <c>week</c> or <c>month</c>.</param>
    public Task<List<StepCount>> OverTime(Question question, string step, CancellationToken cancel) => Read(
        question,
        $"""
        select date_trunc('{step}', c.at at time zone @zone), {Dimension.All[question.By].Key}, count(*)
        from clicks c join links l on l.id = c.link_id {Dimension.Joins} {Dimension.JoinsFor(question.By, question.Filters.Keys)}
        where l.workspace_id = @workspace and c.kind = 0 and c.at >= @start and c.at < @end {Where(question)}
        group by 1, 2 order by 1
        """,
        row => new StepCount(row.GetFieldValue<LocalDateTime>(0), row.GetString(1), row.GetInt64(2)),
        cancel);

    /// <summary>Links at work in the period: published in it, or clicked in it.</summary>
    private Task<List<GroupCount>> Placements(Question question, Dimension dimension, CancellationToken cancel) => Read(
        question,
        $"""
        select {dimension.Key}, {dimension.Label}, count(*)
        from links l {Dimension.Joins} {Dimension.JoinsFor(question.By, [])}
        where l.workspace_id = @workspace
            and (l.deleted_at is null and coalesce(po.published_on, (l.created_at at time zone @zone)::date) between @from and @to
                or exists (select 1 from link_days ld where ld.link_id = l.id and ld.clicks > 0 and ld.day between @from and @to))
            {Where(question, linksOnly: true)}
        group by 1, 2
        """,
        row => new GroupCount(row.GetString(0), row.GetString(1), 0, 0, null, row.GetInt32(2)),
        cancel);

    /// <summary>What a person reads; countries stand as codes in the database.</summary>
    private static string Label(string by, string label) => by switch
    {
        "country" => CountryNames.Of(label),
        _ => label,
    };

    private static string Where(Question question, bool linksOnly = false) => string.Concat(question.Filters.Keys
        .Where(f => !linksOnly || Dimension.All[f].IsOfLink)
        .Select(f => f == "tag"
            ? " and exists (select 1 from link_tags flt join tags ft on ft.id = flt.tag_id where flt.link_id = l.id and ft.name = any(@f_tag))"
            : $" and {Dimension.All[f].Key} = any(@f_{f})"));

    private async Task<List<T>> Read<T>(Question question, string sql, Func<NpgsqlDataReader, T> read, CancellationToken cancel)
    {
        // Only text of this file and names from the dimension table stand in the SQL; all values are parameters.
        await using var command = dataSource.CreateCommand(sql);
        command.Parameters.AddWithValue("workspace", question.WorkspaceId);
        command.Parameters.AddWithValue("zone", question.Zone.Id);
        command.Parameters.AddWithValue("from", question.Period.From);
        command.Parameters.AddWithValue("to", question.Period.To);
        command.Parameters.AddWithValue("start", question.Asked.Start);
        command.Parameters.AddWithValue("end", question.Asked.End);
        if (question.Before is { } before)
        {
            command.Parameters.AddWithValue("beforeStart", before.Start);
            command.Parameters.AddWithValue("beforeEnd", before.End);
        }

        foreach (var (filter, values) in question.Filters)
        {
            command.Parameters.AddWithValue("f_" + filter, values);
        }

        await using var reader = await command.ExecuteReaderAsync(cancel);
        var rows = new List<T>();
        while (await reader.ReadAsync(cancel))
        {
            rows.Add(read(reader));
        }

        return rows;
    }
}

using NodaTime;
using Npgsql;

namespace Cursus.Data.Links;

/// <summary>A visitor whom a rule for the first people let through.</summary>
/// <param name="Rule">The rule's number.</param>
/// <param name="Visitor">The visitor's key; once that is forgotten, a number that is nobody's.</param>
internal readonly record struct RulePerson(Guid Link, byte Rule, long Visitor);

/// <summary>Who was among the first people of rules. Each row carries the transaction that wrote it, by which other processes find it.</summary>
internal static class RulePeople
{
    /// <summary>How long a visitor can be known again: as long as the cookie of routes lasts.</summary>
    private static readonly Duration Known = Duration.FromDays(31);

    /// <summary>Writes visitors down; those that another process was quicker with are there already.</summary>
    public static async Task Write(NpgsqlDataSource source, IReadOnlyList<RulePerson> people, CancellationToken cancel)
    {
        await using var command = source.CreateCommand(
            """
            insert into rule_people (link_id, rule, visitor)
            select p.link_id, p.rule, p.visitor from unnest($1, $2, $3) as p (link_id, rule, visitor) join links l on l.id = p.link_id
            on conflict do nothing
            """
        );
        command.Parameters.Add(new() { Value = people.Select(p => p.Link).ToArray() });
        command.Parameters.Add(new() { Value = people.Select(p => (short)p.Rule).ToArray() });
        command.Parameters.Add(new() { Value = people.Select(p => p.Visitor).ToArray() });
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Those that were written in a transaction or since.</summary>
    public static Task<List<RulePerson>> Since(NpgsqlConnection connection, ulong transaction, CancellationToken cancel) =>
        connection.Rows(
            $"select link_id, rule, visitor from rule_people where changed_in >= '{transaction}'::xid8",
            r => new RulePerson(r.GetGuid(0), (byte)r.GetInt16(1), r.GetInt64(2)),
            cancel
        );

    /// <summary>How many people each rule of a link has let through.</summary>
    public static async Task<Dictionary<byte, int>> Counts(NpgsqlDataSource source, Guid link, CancellationToken cancel)
    {
        await using var connection = await source.OpenConnectionAsync(cancel);
        var counts = await connection.Rows(
            $"select rule, count(*)::int from rule_people where link_id = '{link}' group by rule",
            r => (Rule: (byte)r.GetInt16(0), People: r.GetInt32(1)),
            cancel
        );
        return counts.ToDictionary(c => c.Rule, c => c.People);
    }

    /// <summary>Forgets the keys of visitors who can't be known again; that they were there stays.</summary>
    public static async Task Forget(NpgsqlDataSource source, Instant now, CancellationToken cancel)
    {
        await using var command = source.CreateCommand("update rule_people set visitor = -number where visitor <> -number and seen_at < $1");
        command.Parameters.Add(new() { Value = now - Known });
        await command.ExecuteNonQueryAsync(cancel);
    }
}

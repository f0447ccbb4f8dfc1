using System.Collections.Concurrent;
using Cursus.Data;
using Cursus.Data.Links;
using Npgsql;

namespace Cursus.Edge.Routing;

/// <summary>
/// Counts people for rules that let so many through. A visitor is known at once in this process, and within a second in others: of several processes
/// each may let through who arrives meanwhile, so that a rule can let through a few more than it says, never fewer.
/// </summary>
public sealed class FirstPeople([FromKeyedServices(EdgeSetup.Database)] NpgsqlDataSource source) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(500);

    private readonly ConcurrentDictionary<(Guid Link, byte Rule), HashSet<long>> people = [];
    private readonly ConcurrentQueue<RulePerson> unwritten = [];

    /// <summary>Whether a visitor is one of the first people of a rule; who is new among them is written down.</summary>
    /// <param name="count">How many the rule lets through.</param>
    /// <param name="isCounted">Whether it is somebody who takes a place: the team doesn't.</param>
    public bool IsAmong(Guid link, byte rule, int count, long visitor, bool isCounted)
    {
        var known = people.GetOrAdd((link, rule), _ => []);
        lock (known)
        {
            if (known.Contains(visitor))
            {
                return true;
            }

            if (known.Count >= count)
            {
                return false;
            }

            if (isCounted)
            {
                known.Add(visitor);
                unwritten.Enqueue(new(link, rule, visitor));
            }

            return true;
        }
    }

    /// <summary>Takes over whom this and other processes have written since a transaction.</summary>
    public async Task Read(NpgsqlConnection connection, ulong since, CancellationToken cancel)
    {
        foreach (var (link, rule, visitor) in await RulePeople.Since(connection, since, cancel))
        {
            var known = people.GetOrAdd((link, rule), _ => []);
            lock (known)
            {
                known.Add(visitor);
            }
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(Pause, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            await Write();
        }
    }

    /// <summary>Writes down who is not yet. While the database is away, they wait.</summary>
    private async Task Write()
    {
        var written = new List<RulePerson>();
        while (unwritten.TryDequeue(out var person))
        {
            written.Add(person);
        }

        if (written.Count == 0)
        {
            return;
        }

        try
        {
            await RulePeople.Write(source, written, CancellationToken.None);
        }
        catch (Exception e) when (e is ObjectDisposedException || DatabaseTrouble.IsOfDatabase(e))
        {
            written.ForEach(unwritten.Enqueue);
        }
    }
}

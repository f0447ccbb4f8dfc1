using Cursus.Core.Addresses.Slugs;
using Npgsql;

namespace Cursus.Edge;

/// <summary>Links that visitors ask for while the table is still being loaded: they are read one by one from the database, by a few visitors at a
/// time, so that a flood of unknown slugs in these seconds doesn't reach it.</summary>
internal sealed class UnloadedLinks(LinkFeed feed) : IDisposable
{
    private const int AtATime = 8;
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(2);

    private readonly SemaphoreSlim asking = new(AtATime);

    public void Dispose() => asking.Dispose();

    /// <param name="IsKnown">False where nobody could say whether there is such a link.</param>
    /// <param name="Record">The link; null where there is none.</param>
    public readonly record struct Answer(bool IsKnown, byte[]? Record);

    /// <summary>Whether a slug that the table doesn't have may be in the database.</summary>
    public bool MayHold(ReadOnlySpan<char> slug) => !feed.IsLoaded && Slug.TryParse(slug.ToString(), out _, out _);

    public async Task<Answer> Find(DomainEntry domain, string slug)
    {
        if (!await asking.WaitAsync(LongestWait))
        {
            return default;
        }

        try
        {
            using var cancel = new CancellationTokenSource(LongestWait);
            return new Answer(IsKnown: true, await feed.Ask(domain, slug.ToLowerInvariant(), cancel.Token));
        }
        catch (Exception e) when (e is NpgsqlException or IOException or TimeoutException or OperationCanceledException)
        {
            return default;
        }
        finally
        {
            asking.Release();
        }
    }
}

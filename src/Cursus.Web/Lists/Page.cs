using System.Buffers.Text;
using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Lists;

/// <summary>One page of a list.</summary>
/// <param name="NextCursor">Send it as <c>?cursor=</c> to get the next page; null on the last page.</param>
/// <param name="Total">Number of entries on all pages.</param>
public sealed record Page<T>(IReadOnlyList<T> Items, string? NextCursor, int Total);

/// <summary>Which page is wanted: <c>?limit=</c> (default 50, at most 500) and <c>?cursor=</c>.</summary>
public sealed record PageRequest(int? Limit, string? Cursor)
{
    private int Take => Math.Clamp(Limit ?? 50, 1, 500);

    private int Skip =>
        Cursor is not null
        && Base64Url.IsValid(Cursor)
        && int.TryParse(Encoding.ASCII.GetString(Base64Url.DecodeFromChars(Cursor)), CultureInfo.InvariantCulture, out var skip)
            ? Math.Max(0, skip)
            : 0;

    /// <summary>Cuts the page out of an ordered query and projects its entries.</summary>
    public async Task<Page<TOut>> Of<TIn, TOut>(IQueryable<TIn> ordered, Func<TIn, TOut> project, CancellationToken cancel)
    {
        var total = await ordered.CountAsync(cancel);
        var items = await ordered.Skip(Skip).Take(Take).ToListAsync(cancel);
        var end = Skip + items.Count;
        return new Page<TOut>([.. items.Select(project)], end < total ? Encode(end) : null, total);
    }

    /// <summary>Cuts the page out of a list that is there as a whole.</summary>
    public Page<T> Of<T>(IReadOnlyList<T> whole)
    {
        IReadOnlyList<T> items = [.. whole.Skip(Skip).Take(Take)];
        var end = Skip + items.Count;
        return new Page<T>(items, end < whole.Count ? Encode(end) : null, whole.Count);
    }

    private static string Encode(int position) => Base64Url.EncodeToString(Encoding.ASCII.GetBytes(position.ToString(CultureInfo.InvariantCulture)));
}

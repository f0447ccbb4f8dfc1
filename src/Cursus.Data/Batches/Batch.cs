using Cursus.Core.Batches;
using Cursus.Data.Links;
using NodaTime;

namespace Cursus.Data.Batches;

/// <summary>Many links made at once from one list.</summary>
public sealed class Batch
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>Name of the file, or what stands for a pasted list.</summary>
    public required string Name { get; set; }

    /// <summary>The list as it arrived; null once its links are made.</summary>
    public byte[]? Content { get; set; }

    public Instant CreatedAt { get; init; }
    public Guid? CreatedBy { get; init; }

    /// <summary>When its links were created; null while they wait.</summary>
    public Instant? DoneAt { get; set; }

    /// <summary>Folders that were made for it.</summary>
    public List<Guid> FolderIds { get; set; } = [];

    public List<BatchLine> Lines { get; init; } = [];
}

/// <summary>What became of one line of a list. A line that makes links for several channels stands once for each.</summary>
public sealed class BatchLine
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid BatchId { get; init; }

    /// <summary>Counted from one, as in the file.</summary>
    public int Line { get; init; }

    public LineOutcome Outcome { get; init; }

    /// <summary>Null where the line was left out.</summary>
    public Guid? LinkId { get; init; }

    /// <summary>Why the line was left out, or which other slug its link wanted.</summary>
    public string? Problem { get; init; }

    /// <summary>The line's address as it was written, where the line was left out.</summary>
    public string? Address { get; init; }

    public Link? Link { get; init; }
}

namespace Cursus.Core.Archives;

/// <summary>What an archive of a workspace says of itself, in <c>manifest.json</c>.</summary>
/// <param name="Format">Of the layout; an archive of a later one is refused.</param>
/// <param name="Workspace">Name of the workspace it was made of.</param>
/// <param name="WorkspaceId">Its id.</param>
/// <param name="MadeAt">When, by UTC.</param>
/// <param name="Files">All other files, in the order in which they are read.</param>
public sealed record ArchiveManifest(int Format, string Workspace, Guid WorkspaceId, string MadeAt, IReadOnlyList<ArchivedFile> Files)
{
    /// <summary>The layout that this program writes.</summary>
    public const int PresentFormat = 1;

    public const string FileName = "manifest.json";

    /// <summary>More than so many bytes for each byte of the archive are no list of links (common practice, no source; NDJSON packs by ten to
    /// thirty).</summary>
    private const long MostUnpacked = 100;

    private const long AlwaysFine = 16 * 1024 * 1024;

    /// <summary>What speaks against reading an archive, before any of its files is looked into; null where nothing does.</summary>
    /// <param name="names">Names of the entries of the ZIP, <c>manifest.json</c> included.</param>
    /// <param name="known">Names of files that an archive may have.</param>
    /// <param name="packed">Bytes of the whole archive.</param>
    public ValidationError? Against(IReadOnlyCollection<string> names, IReadOnlyList<string> known, long packed)
    {
        ArgumentNullException.ThrowIfNull(names);
        ArgumentNullException.ThrowIfNull(known);
        if (Format != PresentFormat)
        {
            return new ValidationError(
                "archive-format",
                $"This archive has layout {Format}, but this version of Cursus reads layout {PresentFormat}. Update Cursus, then import it again."
            );
        }

        if (
            Files.Any(f => !known.Contains(f.Name))
            || names.Count != Files.Count + 1
            || names.Distinct().Count() != names.Count
            || Files.Any(f => !names.Contains(f.Name))
        )
        {
            return new ValidationError(
                "archive-files",
                "This ZIP doesn’t contain what a Cursus archive contains. Import it as it was exported, without adding or renaming files."
            );
        }

        return Files.Any(f => f.Bytes < 0 || f.Lines < 0) || Files.Sum(f => (decimal)f.Bytes) > AlwaysFine + (decimal)packed * MostUnpacked
            ? new ValidationError("archive-too-large", "This ZIP would unpack to far more than any list of links, so it was not unpacked.")
            : null;
    }
}

/// <summary>One file of an archive: a JSON object a line.</summary>
/// <param name="Name">Such as <c>links.ndjson</c>.</param>
/// <param name="Sha256">Of its bytes, in hexadecimal (FIPS 180-4).</param>
public sealed record ArchivedFile(string Name, long Lines, long Bytes, string Sha256);

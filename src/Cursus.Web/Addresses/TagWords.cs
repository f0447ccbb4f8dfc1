using Cursus.Core;
using Cursus.Core.Addresses.Tagging;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>The UTM values a workspace has agreed on: sources and mediums by its channels, campaigns by themselves, terms and contents by
/// lists.</summary>
internal sealed class TagWords
{
    private readonly Dictionary<TagField, HashSet<string>> agreed = [];

    /// <summary>Whether only agreed values are taken from this member.</summary>
    private bool isLocked;

    /// <summary>Values that were given up for others.</summary>
    public MergedValues Merged { get; private init; } = MergedValues.None;

    public static async Task<TagWords> Load(
        CursusDb db,
        CurrentMember member,
        IReadOnlyCollection<Channel> channels,
        IEnumerable<string> campaigns,
        CancellationToken cancel
    )
    {
        var words = new TagWords
        {
            Merged = await ReadMerged(db, member.WorkspaceId, cancel),
            isLocked = member.Workspace.IsVocabularyLocked && member.Role < Role.Owner,
        };
        words.agreed[TagField.Source] = [.. channels.Select(c => c.Source)];
        words.agreed[TagField.Medium] = [.. channels.Select(c => c.Medium)];
        words.agreed[TagField.Campaign] = [.. campaigns];
        foreach (var list in (await db.AgreedValues.Where(v => v.WorkspaceId == member.WorkspaceId).ToListAsync(cancel)).GroupBy(v => v.Field))
        {
            words.agreed[list.Key] = [.. list.Select(v => v.Value)];
        }

        return words;
    }

    public static async Task<MergedValues> ReadMerged(CursusDb db, Guid workspaceId, CancellationToken cancel) =>
        new(await db.TagMerges.Where(m => m.WorkspaceId == workspaceId).ToDictionaryAsync(m => (m.Field, m.FromValue), m => m.IntoValue, cancel));

    public IReadOnlyCollection<string> Agreed(TagField field) => agreed.GetValueOrDefault(field) ?? [];

    /// <summary>What <paramref name="value"/> was probably meant to be; null where it is agreed or like nothing.</summary>
    public TagSlip? SlipOf(TagField field, string value) => TagLint.Find(value, Agreed(field));

    /// <summary>Refuses a value that is not agreed where the vocabulary is locked. A field without any agreed value is free.</summary>
    public void Check(TagField field, TagValue? value, FieldErrors errors, string at)
    {
        if (!isLocked || value is null || Agreed(field) is not { Count: > 0 } list || list.Contains(value.Text))
        {
            return;
        }

        var meant = TagLint.Find(value.Text, list) is { } slip
            ? $" Did you mean “{slip.Agreed}”?"
            : $" Allowed values: {string.Join(", ", list.Order(StringComparer.Ordinal).Take(8))}.";
        errors.Add(
            at,
            new ValidationError("vocabulary-locked", $"“{value}” isn’t in this workspace’s vocabulary, which its owners have locked.{meant}")
        );
    }
}

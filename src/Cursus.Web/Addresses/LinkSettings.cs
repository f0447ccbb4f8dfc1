using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Web.Problems;

namespace Cursus.Web.Addresses;

/// <summary>What a link is given beside address and tags.</summary>
/// <param name="Redirect">HTTP status of its answers.</param>
internal sealed record LinkSettings(short Redirect, LinkOptions Options, string? Note, Folder? Folder, LinkSchedule Schedule)
{
    public const int MaxNote = 1000;

    public static LinkSettings Read(
        int? redirect, LinkOptionsPatch? patch, string? note, string? folder, string? opensAt, string? endsAt, ShortDomain? domain, Vocabulary vocabulary, FieldErrors errors, string prefix = "") => new(
        Vocabulary.ReadRedirect(redirect, domain?.Redirect ?? vocabulary.Redirect, errors, prefix + "redirect"),
        (patch ?? new LinkOptionsPatch()).Over(domain is { HasOwnOptions: true } ? domain.Options : vocabulary.Options, errors, prefix + "options"),
        ReadNote(note, errors, prefix + "note"),
        vocabulary.Folder(folder, errors, prefix + "folder"),
        vocabulary.Schedule(opensAt, endsAt, LinkSchedule.Always, errors, prefix));

    public static string? ReadNote(string? note, FieldErrors errors, string field)
    {
        if (note?.Trim().Length > MaxNote)
        {
            errors.Add(field, new ValidationError("note-too-long", $"A note has at most {MaxNote:N0} characters. Shorten it."));
        }

        return note?.Trim() is { Length: > 0 } text ? text : null;
    }
}

using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Data.Links;
using Cursus.Web.Addresses;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;

namespace Cursus.Web.Links;

/// <summary>Omitted fields stay as they are; an empty note, folder, fallback, opening or end removes it.</summary>
/// <param name="Slug">A new slug; the old one keeps working.</param>
/// <param name="Domain">Another short domain.</param>
/// <param name="Fallback">Where visitors go while the destination is broken or the link isn't active.</param>
/// <param name="OpensAt">When it opens: an instant, or a day or time in the workspace's time zone.</param>
/// <param name="EndsAt">When it ends, in the same forms; a day alone is its last day.</param>
/// <param name="Channel">Key of the channel that all its clicks count for, or an empty string for none. Source and medium stay.</param>
/// <param name="IsArchived">Hidden from lists, but still redirecting.</param>
public sealed record EditLinkRequest(
    string? Title = null,
    string? Destination = null,
    string? Campaign = null,
    string? Source = null,
    string? Medium = null,
    string? Term = null,
    string? Content = null,
    int? Redirect = null,
    IReadOnlyList<string>? Tags = null,
    LinkOptionsPatch? Options = null,
    string? Note = null,
    string? Folder = null,
    IReadOnlyList<Guid>? Pixels = null,
    string? Slug = null,
    string? Domain = null,
    bool? IsArchived = null,
    string? Fallback = null,
    string? OpensAt = null,
    string? EndsAt = null,
    string? Channel = null
)
{
    /// <summary>What it says of a link, but for its short address and its tags, which may be new. What is wrong is in
    /// <paramref name="errors"/>.</summary>
    internal LinkPatch Read(Link link, Vocabulary vocabulary, FieldErrors errors)
    {
        var destination = vocabulary.Destination(Destination ?? link.Destination, errors);
        var campaign = Campaign is null ? link.Campaign : vocabulary.Campaign(Campaign, errors);
        var channel = string.IsNullOrWhiteSpace(Channel) ? null : vocabulary.ActiveChannel(Channel, errors, "channel", link.ChannelId);
        var utm = CreateLink.ReadTags(Source ?? link.Source, Medium ?? link.Medium, campaign, Term ?? link.Term, Content ?? link.Content, errors);
        var schedule = vocabulary.Schedule(OpensAt, EndsAt, link.Schedule, errors);
        if (Title?.Trim() is { Length: 0 or > LinkSettings.MaxTitle })
        {
            errors.Add("title", new ValidationError("title", $"Give the link a title of at most {LinkSettings.MaxTitle} characters."));
        }

        var folder = vocabulary.Folder(Folder, errors, "folder");
        return new()
        {
            Title = Title?.Trim() ?? link.Title,
            Destination = destination?.AsEntered ?? link.Destination,
            Fallback = vocabulary.Fallback(Fallback, link.Fallback, errors),
            OpensAt = schedule.OpensAt,
            EndsAt = schedule.EndsAt,
            Source = utm?.Source.Text,
            Medium = utm?.Medium.Text,
            Term = utm?.Term?.Text,
            Content = utm?.Content?.Text,
            CampaignId = campaign?.Id,
            ChannelId = Patch.If(Channel is not null, channel?.Id),
            Redirect = Vocabulary.ReadRedirect(Redirect, link.Redirect, errors),
            Options = Vocabulary.ReadOptions(Options, errors),
            Note = Patch.If(Note is not null, LinkSettings.ReadNote(Note, errors, "note")),
            FolderId = Patch.If(Folder is not null, folder?.Id),
            PixelIds = Patch.If<IReadOnlyList<Guid>>(Pixels is not null, [.. vocabulary.Pixels(Pixels, errors).Order()]),
            IsArchived = Patch.If(IsArchived is not null, IsArchived ?? false),
        };
    }
}

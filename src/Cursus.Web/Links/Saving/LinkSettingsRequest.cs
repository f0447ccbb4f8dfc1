using Cursus.Core.Links;
using Cursus.Web.Addresses;
using Cursus.Web.Links.Routes;
using Cursus.Web.Problems;

namespace Cursus.Web.Links.Saving;

/// <summary>What a request says of a link beside address and tags: that for a link, for all links of a post, or for one row of it.</summary>
internal sealed record LinkSettingsRequest(
    int? Redirect,
    LinkOptionsPatch? Options,
    string? Note,
    string? Folder,
    string? OpensAt,
    string? EndsAt,
    RouteBody? Routes = null,
    Guid? RouteId = null
)
{
    /// <summary>Whether it says nothing.</summary>
    public bool IsSilent =>
        this is { Redirect: null, Options: null, Note: null, Folder: null, OpensAt: null, EndsAt: null, Routes: null, RouteId: null };

    /// <summary>What it says of how the link is answered.</summary>
    public LinkLevel ReadLevel(FieldErrors errors, string prefix) =>
        new(Vocabulary.ReadRedirect(Redirect, errors, prefix + "redirect"), Vocabulary.ReadOptions(Options, errors, prefix + "options"));
}

using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Web.Addresses;
using Cursus.Web.Links.Routes;
using Cursus.Web.Problems;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links.Saving;

/// <summary>What a link is given beside address and tags.</summary>
/// <param name="Redirect">HTTP status of its answers.</param>
internal sealed record LinkSettings(short Redirect, LinkOptions Options, string? Note, Folder? Folder, LinkSchedule Schedule)
{
    /// <summary>Rules by which it leads to other pages; null leads everybody to the destination.</summary>
    public Route? Route { get; init; }

    /// <summary>The saved route that they come from.</summary>
    public Guid? RouteId { get; init; }

    /// <summary>The longest title of a link or post, in characters.</summary>
    public const int MaxTitle = 200;

    public const int MaxNote = 1000;

    /// <summary>What a request comes to; what it leaves out is inherited (<see cref="LinkInheritance"/>).</summary>
    /// <param name="asked">Of the link itself, or of a row.</param>
    /// <param name="wider">Of the row's post, which was read, and its errors told, before; null where there is none.</param>
    public static LinkSettings Read(
        LinkSettingsRequest asked,
        LinkSettingsRequest? wider,
        ShortDomain? domain,
        Vocabulary vocabulary,
        FieldErrors errors,
        string prefix = ""
    )
    {
        var told = new FieldErrors();
        var (redirect, options) = LinkInheritance.Of(
            asked.ReadLevel(errors, prefix),
            wider?.ReadLevel(told, "") ?? LinkLevel.Silent,
            LinkLevel.Of(domain?.Redirect, domain is { HasOwnOptions: true } ? domain.Options : null),
            LinkLevel.Of(vocabulary.Redirect, vocabulary.Options)
        );
        var schedule = vocabulary.Schedule(wider?.OpensAt, wider?.EndsAt, LinkSchedule.Always, told);
        var (route, savedRoute) = asked is { Routes: null, RouteId: null }
            ? ReadRoute(wider, vocabulary, told, "")
            : ReadRoute(asked, vocabulary, errors, prefix);
        return new(
            redirect,
            options,
            asked.Note is null ? ReadNote(wider?.Note, told, "note") : ReadNote(asked.Note, errors, prefix + "note"),
            asked.Folder is null ? vocabulary.Folder(wider?.Folder, told, "folder") : vocabulary.Folder(asked.Folder, errors, prefix + "folder"),
            vocabulary.Schedule(asked.OpensAt, asked.EndsAt, schedule, errors, prefix)
        )
        {
            Route = route,
            RouteId = savedRoute,
        };
    }

    private static (Route? Route, Guid? Saved) ReadRoute(LinkSettingsRequest? asked, Vocabulary vocabulary, FieldErrors errors, string prefix)
    {
        if (RouteReading.Saved(asked?.RouteId ?? asked?.Routes?.RouteId, asked?.Routes, vocabulary, errors, prefix + "routeId") is not { } saved)
        {
            return (RouteReading.OfNewLink(asked?.Routes, vocabulary, errors, prefix + "routes."), null);
        }

        short last = 0;
        return (RouteEditing.After(null, RouteText.Read(saved.Route), ref last), saved.Id);
    }

    public static string? ReadNote(string? note, FieldErrors errors, string field)
    {
        if (note?.Trim().Length > MaxNote)
        {
            errors.Add(field, new ValidationError("note-too-long", $"A note has at most {MaxNote:N0} characters. Shorten it."));
        }

        return note?.Trim() is { Length: > 0 } text ? text : null;
    }
}

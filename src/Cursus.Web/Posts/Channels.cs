using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Posts;

/// <summary>/channels: where posts go, with the agreed source and medium of each.</summary>
public static class Channels
{
    /// <param name="Key">Name in requests and reports; made from the name where left out, and fixed from then on.</param>
    /// <param name="Source">The key where left out.</param>
    /// <param name="Signet">Two letters; the name's first two where left out.</param>
    /// <param name="Color">Place in the set of ten colours, 0 to 9.</param>
    /// <param name="TextLimit">Most characters of a post there; 0 for no limit.</param>
    public sealed record Request(
        string? Name = null, string? Key = null, string? Source = null, string? Medium = null, string? Signet = null, short? Color = null, int? TextLimit = null);

    public sealed record Response(Guid Id, string Key, string Name, string Source, string Medium, string Signet, short Color, int? TextLimit);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/channels", List).ForViewers().WithSummary("Channels, in the order of the Send sheet");
        api.MapPost("/channels", Add).ForEditors().WithSummary("Add a channel");
        api.MapGet("/channels/{id:guid}", Get).ForViewers().WithSummary("One channel");
        api.MapPatch("/channels/{id:guid}", Change).ForEditors().WithSummary("Change a channel; links that exist keep their words");
        api.MapDelete("/channels/{id:guid}", Remove).ForEditors().WithSummary("Remove a channel that has no links");
    }

    private static Response Of(Channel c) => new(c.Id, c.Key, c.Name, c.Source, c.Medium, c.Signet, c.Color, c.TextLimit);

    private static async Task<Ok<Page<Response>>> List([AsParameters] PageRequest page, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        TypedResults.Ok(await page.Of(Mine(db, member).OrderBy(c => c.Position).ThenBy(c => c.Name), Of, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Mine(db, member).FirstOrDefaultAsync(c => c.Id == id, cancel) is { } channel ? TypedResults.Ok(Of(channel)) : ApiProblem.NotFound("channel");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(Request request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var name = request.Name?.Trim() ?? "";
        var key = AsciiWords.Hyphenated(string.IsNullOrWhiteSpace(request.Key) ? name : request.Key, 40);
        var count = await Mine(db, member).CountAsync(cancel);
        var channel = new Channel
        {
            WorkspaceId = member.WorkspaceId,
            Key = key,
            Name = name,
            Source = key,
            Medium = "social",
            Signet = name.Length > 0 ? name[..Math.Min(2, name.Length)] : "",
            Color = (short)(count % 10),
            Position = count,
        };
        if (Apply(request with { Name = name }, channel) is { Any: true } errors)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await Mine(db, member).AnyAsync(c => c.Key == key, cancel))
        {
            return ApiProblem.Conflict("channel-taken", $"There is a channel with the key “{key}” already. Give this one another name.");
        }

        db.Add(channel);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/channels/{channel.Id}", Of(channel));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(Guid id, Request request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        if (await Mine(db, member).FirstOrDefaultAsync(c => c.Id == id, cancel) is not { } channel)
        {
            return ApiProblem.NotFound("channel");
        }

        if (Apply(request, channel) is { Any: true } errors)
        {
            return ApiProblem.Invalid(errors);
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Of(channel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        if (await db.Links.AnyAsync(l => l.ChannelId == id && l.WorkspaceId == member.WorkspaceId, cancel))
        {
            return ApiProblem.Conflict("channel-in-use", "This channel has links, whose clicks would lose their name. A channel with links stays.");
        }

        return await Mine(db, member).Where(c => c.Id == id).ExecuteDeleteAsync(cancel) == 1 ? TypedResults.NoContent() : ApiProblem.NotFound("channel");
    }

    private static FieldErrors Apply(Request request, Channel channel)
    {
        var errors = new FieldErrors();
        if (request.Name is { } name)
        {
            if (name.Trim().Length is 0 or > 60 || AsciiWords.Of(name).Count == 0)
            {
                errors.Add("name", new Flaw("name", "Name the channel in at most 60 characters, with letters or digits in it."));
            }

            channel.Name = name.Trim();
        }

        channel.Source = request.Source is null ? channel.Source : Vocabulary.Tag(request.Source, errors, "source")?.Text ?? "";
        channel.Medium = request.Medium is null ? channel.Medium : Vocabulary.Tag(request.Medium, errors, "medium")?.Text ?? "";
        if (request.Signet?.Trim() is { } signet)
        {
            if (signet.Length is 0 or > 2)
            {
                errors.Add("signet", new Flaw("signet", "A signet is one or two letters."));
            }

            channel.Signet = signet;
        }

        if (request.Color is { } color)
        {
            if (color is < 0 or > 9)
            {
                errors.Add("color", new Flaw("color", "A colour is a number from 0 to 9."));
            }

            channel.Color = color;
        }

        if (request.TextLimit is { } limit)
        {
            if (limit < 0)
            {
                errors.Add("textLimit", new Flaw("text-limit", "A limit is a number of characters, or 0 for none."));
            }

            channel.TextLimit = limit == 0 ? null : limit;
        }

        return errors;
    }

    private static IQueryable<Channel> Mine(CursusDb db, CurrentMember member) => db.Channels.Where(c => c.WorkspaceId == member.WorkspaceId);
}

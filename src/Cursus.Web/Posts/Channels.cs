using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Posts;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Retargeting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>/channels: where posts go, with the agreed source and medium of each.</summary>
public static class Channels
{
    private const int MaxName = 60;

    /// <summary>The colour of a channel's letters in the light scheme.</summary>
    private static readonly (byte Red, byte Green, byte Blue) Letters = (0xff, 0xfd, 0xf9);

    /// <summary>More characters than any channel allows.</summary>
    private const int MaxLimit = 100_000;

    /// <param name="Key">Name in requests and reports; derived from the name if omitted, and fixed from then on.</param>
    /// <param name="Source">If omitted, <c>/channels/proposal</c> decides from the name.</param>
    /// <param name="Medium">If omitted, <c>/channels/proposal</c> decides from the name.</param>
    /// <param name="Signet">One or two letters; the name’s first two by default.</param>
    /// <param name="Color">Place in the set of ten colours, 0 to 9.</param>
    /// <param name="OwnColor">A colour outside the set, as <c>#rrggbb</c>; an empty string returns to the set.</param>
    /// <param name="TextLimit">Maximum length of a post there, in characters; 0 for no limit.</param>
    /// <param name="AddressLength">How many characters an address counts as there; 0 for its actual length.</param>
    /// <param name="Pixels">Ids of the pixels that fire for all its links.</param>
    /// <param name="Retired">True stops new links for it; links and reports stay.</param>
    public sealed record Request(
        string? Name = null,
        string? Key = null,
        string? Source = null,
        string? Medium = null,
        string? Signet = null,
        short? Color = null,
        string? OwnColor = null,
        int? TextLimit = null,
        int? AddressLength = null,
        IReadOnlyList<Guid>? Pixels = null,
        bool? Retired = null
    );

    /// <param name="AddressLength">How many characters an address counts as there; null for its actual length.</param>
    /// <param name="RetiredAt">When it was retired; null if it wasn't.</param>
    public sealed record Response(
        Guid Id,
        string Key,
        string Name,
        string Source,
        string Medium,
        string Signet,
        short Color,
        string? OwnColor,
        int? TextLimit,
        int? AddressLength,
        Instant? RetiredAt
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/channels", List).ForViewers().WithSummary("Channels, in the order shown in Send");
        api.MapPost("/channels", Add).ForEditors().WithSummary("Add a channel");
        api.MapGet("/channels/{id:guid}", Get).ForViewers().WithSummary("One channel");
        api.MapPatch("/channels/{id:guid}", Change)
            .ForEditors()
            .WithSummary("Change or retire a channel; existing links keep their source and medium");
        api.MapDelete("/channels/{id:guid}", Remove).ForEditors().WithSummary("Delete a channel that has no links");
    }

    internal static Response Of(Channel c) =>
        new(c.Id, c.Key, c.Name, c.Source, c.Medium, c.Signet, c.Color, c.OwnColor, c.TextLimit, c.AddressLength, c.RetiredAt);

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Mine(db, member).OrderBy(c => c.Position).ThenBy(c => c.Name), Of, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Mine(db, member).FirstOrDefaultAsync(c => c.Id == id, cancel) is { } channel
            ? TypedResults.Ok(Of(channel))
            : ApiProblem.NotFound("channel");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var channel = Make(request, member, await Mine(db, member).CountAsync(cancel), clock, errors, "");
        channel.Pixels.AddRange(await PixelsOfWorkspace.Find(db, member.WorkspaceId, request.Pixels, errors, cancel));
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await Mine(db, member).AnyAsync(c => c.Key == channel.Key, cancel))
        {
            var taken = Taken(channel.Key);
            return ApiProblem.Conflict(taken.Code, taken.Text);
        }

        db.Add(channel);
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Created($"/api/v1/channels/{channel.Id}", Of(channel));
    }

    /// <summary>A channel that is not saved yet, with proposals for what the request leaves out.</summary>
    /// <param name="position">How many channels there are before it.</param>
    /// <param name="field">What errors’ fields begin with.</param>
    internal static Channel Make(Request request, CurrentMember member, int position, IClock clock, FieldErrors errors, string field)
    {
        var name = request.Name?.Trim() ?? "";
        var proposal = ChannelProposal.Of(name);
        var channel = new Channel
        {
            WorkspaceId = member.WorkspaceId,
            Key = AsciiWords.Hyphenated(string.IsNullOrWhiteSpace(request.Key) ? name : request.Key, 40),
            Name = name,
            Source = proposal.Source,
            Medium = proposal.Medium,
            Signet = name.Length > 0 ? name[..Math.Min(2, name.Length)] : "",
            Color = (short)(position % 10),
            Position = position,
        };
        Apply(request with { Name = name }, channel, clock, errors, field);
        return channel;
    }

    internal static ValidationError Taken(string key) =>
        new("channel-taken", $"There is already a channel with the key “{key}”. Choose another name.");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).Include(c => c.Pixels).FirstOrDefaultAsync(c => c.Id == id, cancel) is not { } channel)
        {
            return ApiProblem.NotFound("channel");
        }

        var errors = new FieldErrors();
        Apply(request, channel, clock, errors, "");
        if (request.Pixels is { } pixels)
        {
            var wanted = await PixelsOfWorkspace.Find(db, member.WorkspaceId, pixels, errors, cancel);
            channel.Pixels.RemoveAll(p => !wanted.Contains(p));
            channel.Pixels.AddRange(wanted.Except(channel.Pixels));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(Of(channel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (await db.Links.AnyAsync(l => l.ChannelId == id && l.WorkspaceId == member.WorkspaceId, cancel))
        {
            return ApiProblem.Conflict(
                "channel-in-use",
                "This channel has links, so it can’t be deleted. Retire it instead, or merge it into another channel."
            );
        }

        return await audit.Delete(Mine(db, member).Where(c => c.Id == id), "channels", id, c => c.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("channel");
    }

    private static void Apply(Request request, Channel channel, IClock clock, FieldErrors errors, string field)
    {
        if (request.Name is { } name)
        {
            if (name.Trim().Length is 0 or > MaxName || AsciiWords.Of(name).Count == 0)
            {
                errors.Add(
                    $"{field}name",
                    new ValidationError("name", $"Enter a channel name of at most {MaxName} characters, including letters or digits.")
                );
            }

            channel.Name = name.Trim();
        }

        channel.Source = request.Source is null ? channel.Source : Vocabulary.Tag(request.Source, errors, $"{field}source")?.Text ?? "";
        channel.Medium = request.Medium is null ? channel.Medium : Vocabulary.Tag(request.Medium, errors, $"{field}medium")?.Text ?? "";
        if (request.Signet?.Trim() is { } signet)
        {
            if (signet.Length is 0 or > 2)
            {
                errors.Add($"{field}signet", new ValidationError("signet", "Use one or two letters."));
            }

            channel.Signet = signet;
        }

        if (request.Color is { } color)
        {
            if (color is < 0 or > 9)
            {
                errors.Add($"{field}color", new ValidationError("color", "A colour is a number from 0 to 9."));
            }

            channel.Color = color;
        }

        channel.OwnColor = request.OwnColor is null ? channel.OwnColor : OwnColorOf(request.OwnColor, errors, $"{field}ownColor");
        if (request.TextLimit is { } limit)
        {
            channel.TextLimit = Characters(limit, errors, $"{field}textLimit");
        }

        if (request.AddressLength is { } length)
        {
            channel.AddressLength = Characters(length, errors, $"{field}addressLength");
        }

        if (request.Retired is { } retired)
        {
            channel.RetiredAt = retired ? channel.RetiredAt ?? clock.GetCurrentInstant() : null;
        }
    }

    /// <summary>A colour that white letters can be read on; null for none. In the dark scheme a lighter one of the same hue is shown, which dark
    /// letters can always be read on.</summary>
    private static string? OwnColorOf(string typed, FieldErrors errors, string field)
    {
        var text = typed.Trim().ToLowerInvariant();
        if (text.Length == 0)
        {
            return null;
        }

        if (!ColorContrast.TryParse(text, out var color))
        {
            errors.Add(field, new ValidationError("color", $"“{typed}” isn’t a colour. Write it as #rrggbb, such as #6e2a5b."));
        }
        else if (ColorContrast.Ratio(color.Value, Letters) is var ratio and < ColorContrast.Text)
        {
            errors.Add(
                field,
                new ValidationError(
                    "contrast",
                    $"White letters would be hard to read on this colour: its contrast is {CountWords.Number(ratio, "0.0")} to 1, and at least {CountWords.Number(ColorContrast.Text, "0.0")} is needed. Choose a darker one."
                )
            );
        }

        return text;
    }

    /// <summary>A number of characters; null for none.</summary>
    private static int? Characters(int typed, FieldErrors errors, string field)
    {
        if (typed is < 0 or > MaxLimit)
        {
            errors.Add(field, new ValidationError("characters", $"Enter a number of characters up to {MaxLimit:N0}, or 0 for none."));
        }

        return typed == 0 ? null : typed;
    }

    internal static IQueryable<Channel> Mine(CursusDb db, CurrentMember member) => db.Channels.Where(c => c.WorkspaceId == member.WorkspaceId);
}

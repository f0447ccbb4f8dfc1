using System.ComponentModel.DataAnnotations;
using Cursus.Core;
using Cursus.Core.Posts;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>/channels as a set: what a new workspace is offered, several added at once, and their order.</summary>
public static class ChannelSet
{
    private const int MostAtOnce = 50;

    /// <param name="Channels">All or none are added.</param>
    public sealed record AddRequest([property: MaxLength(MostAtOnce)] IReadOnlyList<Channels.Request>? Channels);

    /// <param name="Keys">The keys of all channels, in their new order.</param>
    public sealed record OrderRequest(IReadOnlyList<string>? Keys);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/channels/starter-set", () => StarterChannel.All).ForViewers().WithSummary("Channels that a new workspace is offered");
        api.MapPost("/channels/starter-set", Add).ForEditors().WithSummary("Add several channels, all or none");
        api.MapGet("/channels/proposal", (string name) => ChannelProposal.Of(name.Length > 200 ? name[..200] : name))
            .ForViewers()
            .WithSummary("Source and medium for a channel of this name, host or address");
        api.MapPut("/channels/order", Order).ForEditors().WithSummary("Put the channels in order");
    }

    private static async Task<Results<Ok<IReadOnlyList<Channels.Response>>, ProblemHttpResult>> Add(
        AddRequest request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var added = await Make(request.Channels ?? [], member, db, clock, errors, cancel);
        if (added.Count == 0)
        {
            errors.Add("channels", new ValidationError("channels-missing", "Choose at least one channel."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        db.AddRange(added);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<Channels.Response>>(added.ConvertAll(Channels.Of));
    }

    /// <summary>Channels that are not saved yet, after those that the workspace has; what is wrong with one is an error at
    /// <c>channels[i]</c>.</summary>
    internal static async Task<List<Channel>> Make(
        IReadOnlyList<Channels.Request> wanted,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        FieldErrors errors,
        CancellationToken cancel
    )
    {
        var taken = await Channels.Mine(db, member).Select(c => c.Key).ToListAsync(cancel);
        var made = new List<Channel>();
        foreach (var one in wanted)
        {
            var field = $"channels[{made.Count}].";
            var channel = Channels.Make(one, member, taken.Count, clock, errors, field);
            if (taken.Contains(channel.Key) && channel.Key.Length > 0)
            {
                errors.Add($"{field}name", Channels.Taken(channel.Key));
            }

            taken.Add(channel.Key);
            made.Add(channel);
        }

        return made;
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Order(
        OrderRequest request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var channels = await Channels.Mine(db, member).ToDictionaryAsync(c => c.Key, cancel);
        var keys = request.Keys ?? [];
        if (keys.Count != channels.Count || keys.Distinct().Count() != keys.Count || !keys.All(channels.ContainsKey))
        {
            return ApiProblem.Invalid(
                "keys",
                new ValidationError("order", "List each channel of this workspace once. The channels may have changed since; load them again.")
            );
        }

        for (var place = 0; place < keys.Count; place++)
        {
            channels[keys[place]].Position = place;
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }
}

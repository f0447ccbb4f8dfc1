using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>/batches/{id}/vocabulary: channels, campaigns and spellings to merge, out of a list of old links. Nothing is added that nobody
/// chose.</summary>
public static class ListVocabulary
{
    private const int MostAtOnce = 500;

    /// <param name="Name">As people write it.</param>
    /// <param name="Value">The <c>utm_campaign</c>.</param>
    public sealed record CampaignToAdd(string? Name, string? Value);

    /// <summary>The wanted parts of the proposal; all or none are added.</summary>
    /// <param name="Channels">With name, source and medium.</param>
    public sealed record Request(
        IReadOnlyList<Channels.Request>? Channels = null,
        IReadOnlyList<CampaignToAdd>? Campaigns = null,
        IReadOnlyList<TagMerges.Request>? Merges = null
    );

    /// <summary>How much was added.</summary>
    public sealed record Added(int Channels, int Campaigns, int Merges);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/batches/{id:guid}/vocabulary/proposal", Propose)
            .ForEditors()
            .WithSummary("Channels, campaigns and merges that a list of old links suggests");
        api.MapPost("/batches/{id:guid}/vocabulary", Add)
            .ForOwners()
            .WithSummary("Add channels, campaigns and merges from a list of old links, all or none");
    }

    private static async Task<Results<Ok<VocabularyProposal>, ProblemHttpResult>> Propose(
        Guid id,
        BatchRequest request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (
            await Batches.Mine(db, member).AsNoTracking().FirstOrDefaultAsync(b => b.Id == id && b.DoneAt == null, cancel)
            is not { Content: { } content }
        )
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        if (!ListFile.TryRead(content, out var table, out var error, cancel))
        {
            return ApiProblem.Invalid("list", error);
        }

        var columns = (request.Columns ?? table.Fields)
            .Take(table.Columns.Count)
            .Index()
            .Where(c => c.Item is not null)
            .DistinctBy(c => c.Item)
            .ToDictionary(c => c.Item!.Value, c => c.Index);
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        return TypedResults.Ok(
            VocabularyProposal.Of(
                [.. table.Rows.Select(row => TagsOf(new ListLine(row, columns), vocabulary))],
                vocabulary.Words.Agreed,
                vocabulary.Channels.Select(c => (c.Source, c.Medium)).ToHashSet()
            )
        );
    }

    /// <summary>By its columns, else by the values in its address. What is merged already is what it is merged into.</summary>
    private static OldTags TagsOf(ListLine line, Vocabulary vocabulary)
    {
        var inAddress =
            line[ListField.Destination] is { Length: <= Destination.MaxLength } pasted
            && Destination.TryParse(PastedAddress.Clean(pasted), out var destination, out _)
                ? UtmTags.In(destination.Address)
                : new Dictionary<TagField, TagValue>();
        return new OldTags(
            Of(ListField.Source, TagField.Source),
            Of(ListField.Medium, TagField.Medium),
            Of(ListField.Campaign, TagField.Campaign),
            Of(ListField.Term, TagField.Term),
            Of(ListField.Content, TagField.Content)
        );

        string? Of(ListField column, TagField field)
        {
            var value = TagValue.TryParse(line[column], out var typed, out _) ? typed : inAddress.GetValueOrDefault(field);
            return value is null ? null : vocabulary.Words.Merged.Of(field, value).Text;
        }
    }

    private static async Task<Results<Ok<Added>, ProblemHttpResult>> Add(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!await Batches.Mine(db, member).AnyAsync(b => b.Id == id && b.DoneAt == null, cancel))
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        var errors = new FieldErrors();
        var (channels, campaigns, merges) = (request.Channels ?? [], request.Campaigns ?? [], request.Merges ?? []);
        if (channels.Count + campaigns.Count + merges.Count is 0 or > MostAtOnce)
        {
            return ApiProblem.Invalid(
                "channels",
                new ValidationError("vocabulary-count", $"Choose 1 to {MostAtOnce} channels, campaigns and merges.")
            );
        }

        db.AddRange(await ChannelSet.Make(channels, member, db, clock, errors, cancel));
        db.AddRange(await MakeCampaigns(campaigns, member, db, errors, cancel));
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.SaveChangesAsync(cancel);
        foreach (var (i, merge) in merges.Index())
        {
            if (await TagMerges.Merge(merge, member, db, clock, $"merges[{i}].", cancel) is (null, { } problem))
            {
                return problem;
            }
        }

        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(new Added(channels.Count, campaigns.Count, merges.Count));
    }

    private static async Task<List<Campaign>> MakeCampaigns(
        IReadOnlyList<CampaignToAdd> wanted,
        CurrentMember member,
        CursusDb db,
        FieldErrors errors,
        CancellationToken cancel
    )
    {
        var (taken, added) = (
            await db.Campaigns.Where(c => c.WorkspaceId == member.WorkspaceId).Select(c => c.Key).ToHashSetAsync(cancel),
            new List<Campaign>()
        );
        foreach (var (i, (name, value)) in wanted.Index())
        {
            var key = Vocabulary.Tag(value, errors, $"campaigns[{i}].value")?.Text ?? "";
            if (name?.Trim() is not { Length: > 0 and <= Campaigns.MaxName } text)
            {
                errors.Add($"campaigns[{i}].name", new ValidationError("name", $"Enter a campaign name of at most {Campaigns.MaxName} characters."));
                continue;
            }

            if (!taken.Add(key))
            {
                errors.Add($"campaigns[{i}].value", new ValidationError("campaign-taken", $"There is already a campaign “{key}”. Leave it out."));
            }

            added.Add(
                new Campaign
                {
                    WorkspaceId = member.WorkspaceId,
                    Key = key,
                    Name = text,
                }
            );
        }

        return added;
    }
}

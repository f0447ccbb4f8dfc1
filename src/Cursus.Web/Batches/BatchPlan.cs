using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Web.Addresses;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>One link to be made from a line.</summary>
internal sealed record PlannedLine(int Line, LinkPlan Link, LocalDate PublishedOn);

/// <summary>
/// The links that a list would make, with everything that is wrong with its lines. Previewing and making both go by this plan, so that what is shown is
/// what will be made.
/// </summary>
internal sealed class BatchPlan
{
    /// <summary>Lines times channels.</summary>
    public const int MaxLinks = 100_000;

    private readonly Dictionary<int, string> addresses = [];

    /// <summary>Links of lines with nothing wrong, in the list's order.</summary>
    public List<PlannedLine> Links { get; private set; } = [];

    /// <summary>What keeps lines from being made.</summary>
    public LineRemarks Problems { get; } = new();

    /// <summary>Values that were probably meant to be agreed ones; they keep nothing from being made.</summary>
    public LineRemarks Hints { get; } = new();

    /// <summary>Campaigns that lines name and nobody has added yet, as written.</summary>
    public SortedSet<string> NewCampaigns { get; } = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>What is wrong with the request itself.</summary>
    public FieldErrors Errors { get; } = new();

    /// <summary>Lines that are left out, with their address as written and what is wrong.</summary>
    public IReadOnlyList<(int Line, string Address, string Problem)> LeftOut =>
        [.. Problems.ByLine().OrderBy(p => p.Key).Select(p => (p.Key, addresses.GetValueOrDefault(p.Key, ""), p.Value))];

    public static async Task<BatchPlan> Make(
        ListTable table, BatchRequest request, Vocabulary vocabulary, CursusDb db, Instant now, LocalDate today, CancellationToken cancel)
    {
        var plan = new BatchPlan();
        var columns = plan.ReadColumns(table, request.Columns ?? table.Fields);
        var forAll = request.ForAll ?? new BatchDefaults();
        var channels = (forAll.Channels ?? []).Distinct().ToList();
        foreach (var channel in channels)
        {
            vocabulary.Channel(channel, plan.Errors, "forAll.channels");
        }

        if ((long)table.Rows.Count * Math.Max(1, channels.Count) > MaxLinks)
        {
            plan.Errors.Add("forAll.channels", new Flaw("list-too-many-links", $"This would make more than {MaxLinks:N0} links at once. Choose fewer channels, or cut the list into parts."));
        }

        if (plan.Errors.Any)
        {
            return plan;
        }

        foreach (var row in table.Rows)
        {
            cancel.ThrowIfCancellationRequested();
            plan.Add(new ListLine(row, columns), forAll, channels, vocabulary, today);
        }

        await plan.ChooseSlugs(forAll.SlugKind ?? SlugKind.Random, db, now, cancel);

        // A line that can't be made for one of its channels is made for none, so that it is corrected and dropped again as one.
        plan.Links = [.. plan.Links.Where(l => !plan.Problems.Lines.Contains(l.Line))];
        return plan;
    }

    private Dictionary<ListField, int> ReadColumns(ListTable table, IReadOnlyList<ListField?> fields)
    {
        var columns = new Dictionary<ListField, int>();
        foreach (var (field, place) in fields.Take(table.Columns.Count).Select((f, i) => (f, i)).Where(f => f.f is not null))
        {
            if (!columns.TryAdd(field!.Value, place))
            {
                Errors.Add("columns", new Flaw("column-twice", $"“{table.Columns[columns[field.Value]]}” and “{table.Columns[place]}” are both taken for the same. Choose one of them."));
            }
        }

        if (!columns.ContainsKey(ListField.Destination))
        {
            Errors.Add("columns", new Flaw("column-missing", "No column holds the pages' addresses yet. Choose the one that does."));
        }

        return columns;
    }

    private void Add(ListLine line, BatchDefaults forAll, List<string> channels, Vocabulary vocabulary, LocalDate today)
    {
        addresses[line.Line] = line[ListField.Destination] ?? "";
        IEnumerable<string?> ofLine = line[ListField.Channel] is { } own ? [vocabulary.ChannelKey(own)] : channels;
        foreach (var channel in ofLine.DefaultIfEmpty())
        {
            var errors = new FieldErrors();
            var wishes = Read(line, channel, forAll, vocabulary, errors);
            var publishedOn = line.PublishedOn(errors) ?? today;
            var link = CreateLink.Plan(wishes, vocabulary, errors);
            foreach (var (field, texts) in errors.ByField)
            {
                Problems.Add(line.Line, field, string.Join(" ", texts));
            }

            if (wishes.Campaign is { } campaign && !vocabulary.HasCampaign(campaign))
            {
                NewCampaigns.Add(campaign);
            }

            if (link is not null && !errors.Any)
            {
                Links.Add(new PlannedLine(line.Line, link, publishedOn));
                Hint(line.Line, link.Utm, vocabulary);
            }
        }
    }

    private static CreateLink.Request Read(ListLine line, string? channel, BatchDefaults forAll, Vocabulary vocabulary, FieldErrors errors)
    {
        var campaign = line[ListField.Campaign] is { } named ? vocabulary.CampaignKey(named) : forAll.Campaign;
        var request = new CreateLink.Request(
            line[ListField.Destination], line[ListField.Title], campaign, channel, line[ListField.Source], line[ListField.Medium], line[ListField.Term],
            line[ListField.Content], line[ListField.Slug], line[ListField.Domain] ?? forAll.Domain, line.Redirect(errors) ?? forAll.Redirect,
            [.. forAll.Tags ?? [], .. line.Tags ?? []], forAll.Pixels, forAll.Options, line[ListField.Note] ?? forAll.Note, line[ListField.Folder] ?? forAll.Folder);
        return request is { Source: null, Medium: null, Campaign: null, Channel: null } ? WithPastedTags(request, vocabulary) : request;
    }

    /// <summary>Where neither line nor settings say what clicks are counted under, complete tags in the address itself do.</summary>
    private static CreateLink.Request WithPastedTags(CreateLink.Request request, Vocabulary vocabulary)
    {
        if (!Destination.TryParse(request.Destination, out var destination, out _))
        {
            return request;
        }

        var pasted = UtmTags.In(destination.Address);
        return pasted.TryGetValue(TagField.Source, out var source) && pasted.TryGetValue(TagField.Medium, out var medium) && pasted.TryGetValue(TagField.Campaign, out var campaign)
            ? request with
            {
                Source = source.Text,
                Medium = medium.Text,
                Campaign = vocabulary.CampaignKey(campaign.Text),
                Term = request.Term ?? pasted.GetValueOrDefault(TagField.Term)?.Text,
                Content = request.Content ?? pasted.GetValueOrDefault(TagField.Content)?.Text,
            }
            : request;
    }

    private void Hint(int line, UtmTags? tags, Vocabulary vocabulary)
    {
        (TagField Field, TagValue? Value)[] values = [(TagField.Source, tags?.Source), (TagField.Medium, tags?.Medium), (TagField.Term, tags?.Term), (TagField.Content, tags?.Content)];
        foreach (var (field, value) in values)
        {
            if (value is not null && vocabulary.Words.SlipOf(field, value.Text) is { } slip)
            {
                Hints.Add(line, field.ToString().ToLowerInvariant(), $"“{value}” is nearly “{slip.Agreed}”, which is agreed. Did you mean that?");
            }
        }
    }

    /// <summary>Tells which wanted slugs are taken, and gives readable ones where those are wished for.</summary>
    private async Task ChooseSlugs(SlugKind kind, CursusDb db, Instant now, CancellationToken cancel)
    {
        var asking = Links.Where(l => l.Link.Slug is not null || kind == SlugKind.Readable).ToList();
        var states = await SlugCheck.Run(db, [.. asking.Select(l => new SlugWish(l.Link.Domain.Id, l.Link.Slug, l.Link.Title, l.Link.Channel?.Key ?? ""))], now, cancel);
        var chosen = new Dictionary<PlannedLine, Slug>(ReferenceEqualityComparer.Instance);
        foreach (var (line, state) in asking.Zip(states))
        {
            if (state.IsTaken)
            {
                Problems.Add(line.Line, "slug", $"“{state.Slug}” is taken, or stands on an earlier line. Free are {string.Join(", ", state.Alternatives)}.");
            }
            else if (line.Link.Slug is null && Slug.TryParse(state.Slug, out var slug, out _))
            {
                chosen[line] = slug;
            }
        }

        Links = [.. Links.Select(l => chosen.TryGetValue(l, out var slug) ? l with { Link = l.Link with { Slug = slug } } : l)];
    }
}

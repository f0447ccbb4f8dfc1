using Cursus.Core;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Batches;
using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>
/// The links that a list would make, with everything that is wrong with its lines. Previewing and making both go by this plan, so that what is shown
/// is what will be made.
/// </summary>
internal sealed class BatchPlan
{
    /// <summary>Lines times channels.</summary>
    public const int MaxLinks = 100_000;

    private readonly Dictionary<int, string> addresses = [];
    private readonly List<LeftOutLine> skipped = [];
    private LineReading? reading;

    /// <summary>Links of lines with nothing wrong, in the list's order; those that are taken over are among them.</summary>
    public IReadOnlyList<PlannedLine> Links { get; private set; } = [];

    /// <summary>What keeps lines from being made.</summary>
    public LineRemarks Problems { get; } = new();

    /// <summary>Values that are probably misspellings of agreed ones; only a warning.</summary>
    public LineRemarks Hints { get; } = new();

    /// <summary>Campaigns that lines name and nobody has added yet, as written.</summary>
    public SortedSet<string> NewCampaigns { get; } = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>What is wrong with the request itself.</summary>
    public FieldErrors Errors { get; } = new();

    /// <summary>Whether days can be read two ways and somebody must say which.</summary>
    public bool IsDayOrderOpen { get; private set; }

    public IEnumerable<string> OpenRedirects => reading?.OpenRedirects ?? [];

    public IEnumerable<string> OpenDomains => reading?.OpenDomains ?? [];

    /// <summary>Folders created with the links.</summary>
    public IReadOnlyList<Folder> NewFolders =>
        [
            .. Links
                .Select(l => l.Link.Settings.Folder)
                .OfType<Folder>()
                .Where(f => reading!.IsNew(f))
                .Distinct()
                .OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase),
        ];

    /// <summary>Lines that nothing is made of: skipped ones, and those with something wrong.</summary>
    public IReadOnlyList<LeftOutLine> LeftOut =>
        [
            .. Problems
                .ByLine()
                .Select(p => new LeftOutLine(p.Key, LineOutcome.Refused, addresses.GetValueOrDefault(p.Key, ""), p.Value))
                .Concat(skipped)
                .OrderBy(l => l.Line),
        ];

    public static async Task<BatchPlan> Make(
        ListTable table,
        BatchRequest request,
        Vocabulary vocabulary,
        CurrentMember member,
        CursusDb db,
        Instant now,
        CancellationToken cancel
    )
    {
        var plan = new BatchPlan();
        var columns = plan.ReadColumns(table, request.Columns ?? table.Fields);
        var (forAll, choices) = (request.ForAll ?? new(), request.Choices ?? new());
        var channels = (forAll.Channels ?? []).Distinct().ToList();
        foreach (var channel in channels)
        {
            vocabulary.ActiveChannel(channel, plan.Errors, "forAll.channels");
        }

        if ((long)table.Rows.Count * Math.Max(1, channels.Count) > MaxLinks)
        {
            plan.Errors.Add(
                "forAll.channels",
                new ValidationError(
                    "list-too-many-links",
                    $"This would create more than {MaxLinks:N0} links at once. Choose fewer channels, or split the list."
                )
            );
        }

        List<ListLine> lines = [.. table.Rows.Select(row => new ListLine(row, columns))];
        var order = plan.ReadDayOrder(lines, choices);
        if (plan.Errors.Any)
        {
            return plan;
        }

        plan.reading = new LineReading(forAll, choices, order, vocabulary, member.WorkspaceId, now, member.Zone);
        var read = new List<PlannedLine>();
        foreach (var line in lines)
        {
            cancel.ThrowIfCancellationRequested();
            read.AddRange(plan.Read(line, channels, vocabulary));
        }

        var chosen = await SlugsOfLines.Choose(read, forAll.SlugKind ?? SlugKind.Random, choices.Taken ?? TakenSlug.Refuse, db, now, cancel);
        plan.Take(chosen);
        return plan;
    }

    private Dictionary<ListField, int> ReadColumns(ListTable table, IReadOnlyList<ListField?> fields)
    {
        var columns = new Dictionary<ListField, int>();
        foreach (var (field, place) in fields.Take(table.Columns.Count).Select((f, i) => (f, i)).Where(f => f.f is not null))
        {
            if (!columns.TryAdd(field!.Value, place))
            {
                Errors.Add(
                    "columns",
                    new ValidationError(
                        "column-twice",
                        $"“{table.Columns[columns[field.Value]]}” and “{table.Columns[place]}” are both mapped to the same field. Choose one of them."
                    )
                );
            }
        }

        if (!columns.ContainsKey(ListField.Destination))
        {
            Errors.Add("columns", new ValidationError("column-missing", "Choose the column that contains the pages’ addresses."));
        }

        return columns;
    }

    private DayOrder ReadDayOrder(List<ListLine> lines, ListChoices choices)
    {
        IsDayOrderOpen = !ListedTime.TryTellOrder(
            lines
                .SelectMany(l => new[] { l[ListField.CreatedAt], l[ListField.PublishedOn], l[ListField.OpensAt], l[ListField.EndsAt] })
                .OfType<string>(),
            out var order
        );
        if (IsDayOrderOpen && choices.DayOrder is null)
        {
            Errors.Add(
                "choices.dayOrder",
                new ValidationError("day-order", "Dates such as 3/4/2026 can be read two ways. Choose which number is the day.")
            );
        }

        return IsDayOrderOpen && choices.DayOrder is { } chosen ? chosen : order;
    }

    /// <summary>The links of one line; none where something is wrong with it.</summary>
    private IEnumerable<PlannedLine> Read(ListLine line, List<string> channels, Vocabulary vocabulary)
    {
        addresses[line.Line] = line[ListField.Destination] ?? "";
        IEnumerable<string?> ofLine = line[ListField.Channel] is { } own ? [vocabulary.ChannelKey(own)] : channels;
        foreach (var channel in ofLine.DefaultIfEmpty())
        {
            var errors = new FieldErrors();
            var request = reading!.RequestOf(line, channel, errors);
            var past = reading.Past(line, errors);
            var link = CreateLink.Plan(request, vocabulary, errors, mayWait: line[ListField.ShortAddress] is not null);
            foreach (var (field, texts) in errors.ByField)
            {
                Problems.Add(line.Line, field, string.Join(" ", texts));
            }

            if (request.Campaign is { } campaign && !vocabulary.HasCampaign(campaign))
            {
                NewCampaigns.Add(campaign);
            }

            if (link is not null && !errors.Any)
            {
                Hint(line.Line, link, vocabulary);
                if (link.Settings.Route is null && line[ListField.Rules] is { } rules)
                {
                    Hints.Add(line.Line, "rules", $"A list can’t say rules such as “{rules}”. Set them once the link is there.");
                }

                yield return new PlannedLine(line.Line, link, past, Said(request, link, past));
            }
        }
    }

    private static ListedLink Said(CreateLink.Request request, LinkPlan link, LinePast past) =>
        new(
            link.Destination.AsEntered,
            request.Title is null ? null : link.Title,
            link.Utm?.Source.Text,
            link.Utm?.Medium.Text,
            link.Utm?.Term?.Text,
            link.Utm?.Content?.Text,
            link.Utm is null ? null : link.Campaign?.Id,
            (short?)request.Redirect,
            link.Settings.Note,
            link.Settings.Folder?.Id,
            TagIds: null,
            past.ImportedClicks,
            link.Settings.Schedule.OpensAt,
            link.Settings.Schedule.EndsAt,
            request.Options,
            link.Settings.Route is { } route ? new GivenRoute(route, link.Settings.RouteId) : null
        );

    private void Hint(int line, LinkPlan link, Vocabulary vocabulary)
    {
        (TagField Field, TagValue? Value)[] values =
        [
            (TagField.Source, link.Utm?.Source),
            (TagField.Medium, link.Utm?.Medium),
            (TagField.Term, link.Utm?.Term),
            (TagField.Content, link.Utm?.Content),
        ];
        foreach (var (field, value) in values)
        {
            if (value is not null && vocabulary.Words.SlipOf(field, value.Text) is { } slip)
            {
                Hints.Add(line, field.ToString().ToLowerInvariant(), $"Did you mean “{slip.Agreed}” instead of “{value}”?");
            }
        }

        if (link.Domain.VerifiedAt is null)
        {
            Hints.Add(line, "domain", $"{link.Domain.Name} doesn’t point here yet. Its links will work as soon as it does.");
        }
    }

    private void Take(IReadOnlyList<PlannedLine> chosen)
    {
        foreach (var line in chosen.Where(l => l.Outcome == LineOutcome.Refused))
        {
            Problems.Add(line.Line, "slug", line.Remark!);
        }

        // A line that can't be made for one of its channels is made for none, so that it is corrected and dropped again as one.
        var good = chosen.Where(l => !Problems.Lines.Contains(l.Line)).ToList();
        skipped.AddRange(
            good.Where(l => l.Outcome == LineOutcome.Skipped).Select(l => new LeftOutLine(l.Line, l.Outcome, addresses[l.Line], l.Remark!))
        );
        Links = [.. good.Where(l => l.Outcome != LineOutcome.Skipped)];
    }
}

using System.Globalization;
using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Data;
using Cursus.Data.Codes;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Codes;

/// <summary>Finds what a member's codes are drawn from: links, styles, logos, all of the member's workspace.</summary>
internal sealed class CodesOfWorkspace(CursusDb db, CurrentMember member, CursusOptions options, Counting counting, IClock clock)
{
    /// <summary>By id of the style, none for the default: many links are asked for at once and share a few.</summary>
    private readonly Dictionary<Guid, (CodeStyle Style, LogoArt? Logo)> looks = [];

    /// <summary>What a code needs of its link.</summary>
    /// <param name="Channel">Name of its channel; null without one.</param>
    public sealed record LinkRow(Guid Id, string Domain, string Slug, string Title, Guid? StyleId, string? Post, string? Channel, string? Variant);

    public async Task<LinkRow?> FindLink(Guid id, CancellationToken cancel) => (await FindLinks([id], cancel)).SingleOrDefault();

    /// <summary>Live links in the order asked for; those of other workspaces are left out.</summary>
    public async Task<IReadOnlyList<LinkRow>> FindLinks(IReadOnlyList<Guid> ids, CancellationToken cancel)
    {
        var found = await db
            .Links.Where(l => l.WorkspaceId == member.WorkspaceId && l.DeletedAt == null && ids.Contains(l.Id))
            .Select(l => new LinkRow(
                l.Id,
                l.Domain!.Name,
                l.Slug,
                l.Title,
                l.CodeStyleId,
                l.Placement!.Post!.Title,
                l.Channel!.Name,
                l.Placement.Variant
            ))
            .ToDictionaryAsync(l => l.Id, cancel);
        return [.. ids.Distinct().Where(found.ContainsKey).Select(id => found[id])];
    }

    public string ShortUrl(LinkRow link) => options.ShortUrl(link.Domain, link.Slug);

    /// <summary>How often people came by each code of a link, all time, by the code's number.</summary>
    public async Task<IReadOnlyDictionary<int, long>> ScansOf(Guid link, CancellationToken cancel)
    {
        var question = QuestionReader.OfLastDays("code", Core.Reports.Period.MaxDays, member, clock.GetCurrentInstant()) with
        {
            Filters = new Dictionary<string, string[]> { ["link"] = [link.ToString()] },
        };
        var byCode = await counting.ByKey(question, cancel);
        return byCode
            .Where(c => c.Key.Length > 0)
            .ToDictionary(c => int.Parse(c.Key[(c.Key.IndexOf('/') + 1)..], CultureInfo.InvariantCulture), c => c.Value);
    }

    /// <summary>A saved style by its id.</summary>
    public async Task<CodeStyle?> FindStyle(Guid id, CancellationToken cancel) =>
        await Styles.Where(s => s.Id == id).Select(s => s.Style).SingleOrDefaultAsync(cancel) is { } json ? CodeStyleJson.ReadStyle(json) : null;

    /// <summary>The style that a link's codes have: its own, else the workspace's default, else the plain one.</summary>
    public async Task<CodeStyle> StyleOf(LinkRow link, CancellationToken cancel) =>
        await Styles
            .Where(s => s.Id == link.StyleId || s.IsDefault)
            .OrderByDescending(s => s.Id == link.StyleId)
            .Select(s => s.Style)
            .FirstOrDefaultAsync(cancel)
            is { } json
            ? CodeStyleJson.ReadStyle(json)
            : CodeStyle.Plain;

    /// <summary>A style's logo. What is wrong with the style is told under <paramref name="field"/>.</summary>
    public async Task<LogoArt?> CheckStyle(CodeStyle style, FieldErrors errors, string field, CancellationToken cancel)
    {
        foreach (var (part, error) in style.Errors())
        {
            errors.Add($"{field}.{part}", error);
        }

        var logo = await FindLogo(style, cancel);
        if (style.Logo is not null && logo is null)
        {
            errors.Add($"{field}.logo", new ValidationError("logo-unknown", "This workspace has no such logo. Upload it again."));
        }

        return logo;
    }

    public async Task<LogoArt?> FindLogo(CodeStyle style, CancellationToken cancel) =>
        style.Logo is { } wanted
        && await db.CodeLogos.AsNoTracking().SingleOrDefaultAsync(l => l.Id == wanted.Id && l.WorkspaceId == member.WorkspaceId, cancel) is { } logo
            ? ArtOf(logo)
            : null;

    /// <summary>The code of a link in a style; without one in its own, fitted to its address.</summary>
    public async Task<FinishedCode> Finish(LinkRow link, int number, CodeStyle? style, CancellationToken cancel)
    {
        if (style is not null)
        {
            return FinishedCode.Of(ShortUrl(link), number, style, await FindLogo(style, cancel));
        }

        if (!looks.TryGetValue(link.StyleId ?? Guid.Empty, out var look))
        {
            style = await StyleOf(link, cancel);
            looks[link.StyleId ?? Guid.Empty] = look = (style, await FindLogo(style, cancel));
        }

        return CodeJudgement.Fitted(FinishedCode.Of(ShortUrl(link), number, look.Style, look.Logo));
    }

    /// <summary>Names of a link's codes by number; the first is there without being made.</summary>
    public async Task<IReadOnlyDictionary<int, string>> NamesOf(Guid linkId, CancellationToken cancel)
    {
        var made = await db
            .LinkCodes.Where(c => c.LinkId == linkId && c.RemovedAt == null)
            .ToDictionaryAsync(c => (int)c.Number, c => c.Name, cancel);
        made.TryAdd(ScannedPath.OwnCode, "Own code");
        return made;
    }

    public static LogoArt ArtOf(SavedCodeLogo logo) => new(logo.Width, logo.Height, logo.Png, CodeStyleJson.ReadShapes(logo.Shapes));

    private IQueryable<SavedCodeStyle> Styles => db.CodeStyles.Where(s => s.WorkspaceId == member.WorkspaceId);
}

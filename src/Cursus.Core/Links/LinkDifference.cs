using System.Globalization;
using System.Text.Json.Serialization;
using Cursus.Core.Routing;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Core.Links;

/// <summary>What can differ between two versions of a link.</summary>
public enum LinkField
{
    Address,
    Title,
    Destination,
    Fallback,
    Opens,
    Ends,
    Channel,
    Campaign,
    Source,
    Medium,
    Term,
    Content,
    Redirect,
    PassQuery,
    Referrer,
    HideFromSearch,
    Nofollow,
    Sponsored,
    NewTab,
    TitleAttribute,
    AnchorText,
    HandoffDeadline,
    EndedText,
    Route,
    SavedRoute,
    Note,
    Folder,
    Tags,
    Pixels,

    [JsonStringEnumMemberName("brought-along")]
    ImportedClicks,
    Archived,
    Deleted,
}

/// <summary>One effect of a change on a link.</summary>
/// <param name="From">Null if there was nothing.</param>
/// <param name="To">Null if it was removed.</param>
public sealed record LinkDifference(LinkField Field, string? From, string? To)
{
    private static readonly LocalDateTimePattern ToTheMinute = LocalDateTimePattern.Create("d MMM uuuu, HH:mm", CultureInfo.GetCultureInfo("en-GB"));
    private static readonly LocalDatePattern WholeDay = LocalDatePattern.Create("d MMM uuuu", CultureInfo.GetCultureInfo("en-GB"));

    /// <summary>What makes <paramref name="after"/> of <paramref name="before"/>, in the order of <see cref="LinkField"/>. The finished address
    /// follows from the rest and isn't told.</summary>
    /// <param name="nameOf">The name of a short domain, channel, campaign, folder, tag or pixel.</param>
    /// <param name="zone">By whose clock times are told.</param>
    public static IReadOnlyList<LinkDifference> Between(LinkState before, LinkState after, Func<Guid, string> nameOf, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(after);
        ArgumentNullException.ThrowIfNull(nameOf);
        ArgumentNullException.ThrowIfNull(zone);
        var (was, now) = (Told(before, nameOf, zone), Told(after, nameOf, zone));
        return [.. Enum.GetValues<LinkField>().Where(f => was[f] != now[f]).Select(f => new LinkDifference(f, was[f], now[f]))];
    }

    private static Dictionary<LinkField, string?> Told(LinkState state, Func<Guid, string> nameOf, DateTimeZone zone)
    {
        var told = new Dictionary<LinkField, string?>
        {
            [LinkField.Address] = $"{nameOf(state.DomainId)}/{state.Slug}",
            [LinkField.Title] = state.Title,
            [LinkField.Destination] = state.Destination,
            [LinkField.Fallback] = state.Fallback,
            [LinkField.Opens] = Time(state.OpensAt?.InZone(zone).LocalDateTime, daysBefore: 0),
            [LinkField.Ends] = Time(state.EndsAt?.InZone(zone).LocalDateTime, daysBefore: 1),
            [LinkField.Channel] = state.ChannelId is { } channel ? nameOf(channel) : null,
            [LinkField.Campaign] = state.CampaignId is { } campaign ? nameOf(campaign) : null,
            [LinkField.Source] = state.Source,
            [LinkField.Medium] = state.Medium,
            [LinkField.Term] = state.Term,
            [LinkField.Content] = state.Content,
            [LinkField.Redirect] = $"{state.Redirect}",
            [LinkField.Route] = state.Route is { } route ? RouteWords.Of(RouteText.Read(route), zone) : null,
            [LinkField.SavedRoute] = state.RouteId is { } saved ? nameOf(saved) : null,
            [LinkField.Note] = state.Note,
            [LinkField.Folder] = state.FolderId is { } folder ? nameOf(folder) : null,
            [LinkField.Tags] = Names(state.TagIds, nameOf),
            [LinkField.Pixels] = Names(state.PixelIds, nameOf),
            [LinkField.ImportedClicks] = state.ImportedClicks is { } clicks ? CountWords.Number(clicks) : null,
            [LinkField.Archived] = OnOrNull(state.IsArchived),
            [LinkField.Deleted] = OnOrNull(state.IsDeleted),
        };
        foreach (var option in LinkOptionFields.All)
        {
            told[option.Field] = option.Told(state.Options);
        }

        return told;
    }

    private static string? Names(IReadOnlyList<Guid> ids, Func<Guid, string> nameOf) =>
        ids.Count == 0 ? null : string.Join(", ", ids.Select(nameOf).Order(StringComparer.OrdinalIgnoreCase));

    /// <summary>A bound as people say it: at midnight it is a day's, the one that begins or the one that is over; see
    /// <see cref="ScheduleBound"/>.</summary>
    private static string? Time(LocalDateTime? at, int daysBefore) =>
        at switch
        {
            null => null,
            { TimeOfDay: var time } when time == LocalTime.Midnight => WholeDay.Format(at.Value.Date.PlusDays(-daysBefore)),
            _ => ToTheMinute.Format(at.Value),
        };

    private static string? OnOrNull(bool isOn) => isOn ? "yes" : null;
}

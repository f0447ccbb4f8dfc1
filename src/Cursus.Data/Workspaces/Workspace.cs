using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>Everything that one organisation makes and sees. Nothing is shared between workspaces.</summary>
public sealed class Workspace
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public required string Name { get; set; }

    /// <summary>Names it in addresses, as in <c>/w/northmoor/links</c>; made of its first name, and the same for ever, since people keep such
    /// addresses.</summary>
    public required string Key { get; init; }

    /// <summary>Longest key, in characters.</summary>
    public const int MaxKey = 40;

    /// <summary>What visitors and readers of shared views are told its name is; <see cref="Name"/> where null.</summary>
    public string? PublicName { get; set; }

    /// <summary>What people outside read.</summary>
    public string ShownName => PublicName ?? Name;

    /// <summary>IANA name of the zone in which days, weeks and hours are cut.</summary>
    public required string TimeZone { get; set; }

    /// <summary>The day on which its weeks begin.</summary>
    public IsoDayOfWeek WeekStart { get; set; } = IsoDayOfWeek.Monday;

    /// <summary>How numbers are written, one of <see cref="Core.NumberLanguage.Tags"/>.</summary>
    public string NumberLanguage { get; set; } = Core.NumberLanguage.Default;

    /// <summary>Redirect type of new links where their domain has none of its own: 301, 302, 307 or 308.</summary>
    public short Redirect { get; set; } = LinkOptions.UsualRedirect;

    /// <summary>Options of new links where their domain has none of its own.</summary>
    public LinkOptions Options { get; set; } = LinkOptions.Plain;

    /// <summary>How slugs of new posts are generated.</summary>
    public SlugKind SlugKind { get; set; }

    /// <summary>Who must sign in in two steps to work in it.</summary>
    public TwoStepRule TwoStepOf { get; set; }

    /// <summary>True where only owners may use words that are not agreed.</summary>
    public bool IsVocabularyLocked { get; set; }

    /// <summary>Networks of the organisation's own offices, as address and prefix length; visitors from there are the team's.</summary>
    public string[] OfficeNetworks { get; set; } = [];

    /// <summary>True where clicks are left out for what visitors do, as mail scanners do; see
    /// <see cref="Core.Clicks.Requests.BehaviourWatch"/>.</summary>
    public bool LeavesOutByBehaviour { get; set; } = true;

    /// <summary>For how many months single clicks are kept, one of <see cref="Core.Clicks.RetentionRule.Months"/>; 0 for ever.</summary>
    public short ClicksKeptMonths { get; set; }

    /// <summary>The first day, by the workspace's clock, of which single clicks are still there; null where none have been deleted.</summary>
    public LocalDate? ClicksKeptFrom { get; init; }

    /// <summary>The week whose digest webhooks were told of last.</summary>
    public LocalDate? DigestToldFor { get; set; }

    /// <summary>True where the data is the shipped demo, whose sign-in may be shown on the sign-in page.</summary>
    public bool IsDemo { get; init; }

    public Instant CreatedAt { get; init; }

    /// <summary>Since when nothing in it can be changed; null where it is at work. Its links lead where they lead.</summary>
    public Instant? ArchivedAt { get; set; }

    /// <summary>When it is deleted with all that is in it; null where it is not going to be.</summary>
    public Instant? DeleteAt { get; set; }
}

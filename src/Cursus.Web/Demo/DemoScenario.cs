using System.Text.Json;

namespace Cursus.Web.Demo;

/// <summary>The demo's world as its readable files in <c>demo/</c> say it.</summary>
public sealed record DemoScenario(
    DemoScenario.WorkspaceFile Workspace,
    IReadOnlyList<DemoScenario.ChannelFile> Channels,
    IReadOnlyList<DemoScenario.CampaignFile> Campaigns,
    IReadOnlyList<DemoScenario.PostFile> Posts,
    IReadOnlyList<DemoScenario.SeriesFile> Series,
    IReadOnlyList<DemoScenario.PixelFile> Pixels,
    string AdNetworks,
    DemoScenario.CodesFile Codes,
    string Logo,
    IReadOnlyList<DemoScenario.RouteFile> Routes,
    DemoScenario.AgentsFile Agents
)
{
    /// <summary>Password of every demo member. It is shown on the sign-in page, and only while the data is the demo.</summary>
    public const string Password = "northern-lights";

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public static DemoScenario Read(string folder) =>
        new(
            Part<WorkspaceFile>(folder, "workspace.json"),
            Part<IReadOnlyList<ChannelFile>>(folder, "channels.json"),
            Part<IReadOnlyList<CampaignFile>>(folder, "campaigns.json"),
            Part<IReadOnlyList<PostFile>>(folder, "posts.json"),
            Part<IReadOnlyList<SeriesFile>>(folder, "series.json"),
            Part<IReadOnlyList<PixelFile>>(folder, "pixels.json"),
            File.ReadAllText(Path.Combine(folder, "ad-networks.json")),
            Part<CodesFile>(folder, "codes.json"),
            File.ReadAllText(Path.Combine(folder, "dome.svg")),
            Part<IReadOnlyList<RouteFile>>(folder, "routes.json"),
            Part<AgentsFile>(folder, "data/agents.json")
        );

    private static T Part<T>(string folder, string file) =>
        JsonSerializer.Deserialize<T>(File.ReadAllText(Path.Combine(folder, file)), Json)
        ?? throw new InvalidDataException($"{file} of the demo is empty.");

    public sealed record WorkspaceFile(
        string Name,
        string TimeZone,
        IReadOnlyList<MemberFile> Members,
        IReadOnlyList<DomainFile> Domains,
        IReadOnlyDictionary<string, string> Sites,
        IReadOnlyList<string> Tags
    );

    public sealed record MemberFile(string Name, string Email, string Role);

    public sealed record DomainFile(string Name, bool IsDefault = false, string? BarePage = null);

    /// <param name="Reach">People's clicks that a post of ordinary appeal gets there.</param>
    /// <param name="HalfLifeHours">Hours until half of them have come.</param>
    /// <param name="Untold">Part of them that come without a referrer.</param>
    /// <param name="Wander">Part of them that come from another network.</param>
    /// <param name="Phones">Part of them on phones.</param>
    public sealed record ChannelFile(
        string Key,
        string Name,
        string Source,
        string Medium,
        string Signet,
        short Color,
        int? TextLimit,
        double Reach,
        double HalfLifeHours,
        double Untold,
        double Wander,
        double Phones
    );

    /// <param name="Places">Where posters hang, each with a code of its own.</param>
    public sealed record CodesFile(IReadOnlyList<PlaceFile> Places, IReadOnlyList<StyleFile> Styles);

    /// <param name="Per100">Of a hundred people who come by a poster, so many scan this one.</param>
    public sealed record PlaceFile(string Name, int Per100);

    /// <param name="Style">As the API takes it.</param>
    /// <param name="HasLogo">True where the demo's logo stands in it.</param>
    public sealed record StyleFile(string Name, bool IsDefault, bool HasLogo, JsonElement Style);

    public sealed record CampaignFile(string Key, string Name);

    /// <param name="Page">Site and path, such as <c>northmoor/events/autumn</c>.</param>
    /// <param name="Channels">Channel keys, with a variant behind a slash.</param>
    /// <param name="Clicks">People's clicks by channel, or by channel and variant, where the story needs an exact number.</param>
    /// <param name="EndsDaysAgo">So many days ago its links have ended.</param>
    /// <param name="Fallback">Page that they lead to since, as <paramref name="Page"/> is written.</param>
    public sealed record PostFile(
        int DaysAgo,
        string Title,
        string Page,
        string Campaign,
        IReadOnlyList<string> Channels,
        IReadOnlyList<string> Tags,
        string By,
        string? Slug = null,
        string? Domain = null,
        IReadOnlyDictionary<string, int>? Clicks = null,
        int? EndsDaysAgo = null,
        string? Fallback = null
    );

    /// <summary>Posts that come again each month or week. Braces are filled in: <c>{month}</c>, <c>{yyyy-mm}</c>, <c>{yyyy-mm-dd}</c>,
    /// <c>{topic}</c>.</summary>
    /// <param name="Clicks">How many people click on each channel, more or less from one post to the next; see <see cref="DemoCalendar"/>.</param>
    public sealed record SeriesFile(
        string Title,
        string Page,
        string CampaignKey,
        string CampaignName,
        IReadOnlyList<string> Channels,
        IReadOnlyList<string> Tags,
        string By,
        bool EveryMonth = false,
        bool EveryWeek = false,
        IReadOnlyList<string>? Topics = null,
        IReadOnlyDictionary<string, int>? Clicks = null
    );

    /// <param name="Network">Key of an ad network of the demo's own, in <c>ad-networks.json</c>.</param>
    public sealed record PixelFile(
        string Name,
        string Network,
        string Reference,
        IReadOnlyList<string>? Campaigns = null,
        IReadOnlyList<string>? Channels = null
    );

    /// <summary>Where the links of a post lead whom.</summary>
    /// <param name="Post">The post's title.</param>
    /// <param name="SavedAs">Name of the saved route that they follow; null where the rules are each link's own.</param>
    public sealed record RouteFile(string Post, string? SavedAs = null)
    {
        public IReadOnlyList<RuleFile> Rules { get; init; } = [];

        /// <summary>The pages that everyone else is split over, if they are.</summary>
        public IReadOnlyList<SharedPageFile> Split { get; init; } = [];
    }

    /// <param name="EndedDaysAgo">It holds from ten in the evening on the day so many days ago.</param>
    public sealed record RuleFile(string Page, string? Name = null, int? EndedDaysAgo = null)
    {
        public IReadOnlyList<string> Countries { get; init; } = [];
    }

    public sealed record SharedPageFile(string Page, string Name, int Weight);

    public sealed record AgentsFile(
        IReadOnlyList<string> Phones,
        IReadOnlyList<string> Desktops,
        IReadOnlyList<string> Machines,
        IReadOnlyList<string> Previews,
        IReadOnlyList<string> Languages,
        IReadOnlyList<string> Countries
    );
}

using Cursus.Data.Addresses;
using Cursus.Data.Batches;
using Cursus.Data.Checking;
using Cursus.Data.Clicks;
using Cursus.Data.Codes;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Data.Reports;
using Cursus.Data.Retargeting;
using Cursus.Data.Webhooks;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Data;

/// <summary>The database. Clicks are written past it, by <see cref="ClickStore"/>, since they arrive in bulk.</summary>
public sealed class CursusDb(DbContextOptions<CursusDb> options) : IdentityUserContext<Account, Guid>(options), IDataProtectionKeyContext
{
    public DbSet<Workspace> Workspaces => Set<Workspace>();
    public DbSet<Member> Members => Set<Member>();
    public DbSet<ApiToken> ApiTokens => Set<ApiToken>();
    public DbSet<SignIn> SignIns => Set<SignIn>();
    public DbSet<UsedCode> UsedCodes => Set<UsedCode>();
    public DbSet<Invitation> Invitations => Set<Invitation>();
    public DbSet<EmailChange> EmailChanges => Set<EmailChange>();
    public DbSet<OutgoingMail> OutgoingMails => Set<OutgoingMail>();
    public DbSet<AuditEntry> AuditEntries => Set<AuditEntry>();
    public DbSet<IdempotentAnswer> IdempotentAnswers => Set<IdempotentAnswer>();
    public DbSet<ShortDomain> Domains => Set<ShortDomain>();
    public DbSet<Channel> Channels => Set<Channel>();
    public DbSet<Campaign> Campaigns => Set<Campaign>();
    public DbSet<Post> Posts => Set<Post>();
    public DbSet<Placement> Placements => Set<Placement>();
    public DbSet<Link> Links => Set<Link>();
    public DbSet<Tag> Tags => Set<Tag>();
    public DbSet<Folder> Folders => Set<Folder>();
    public DbSet<ShortAddress> Addresses => Set<ShortAddress>();
    public DbSet<LinkAlias> LinkAliases => Set<LinkAlias>();
    public DbSet<SavedRoute> SavedRoutes => Set<SavedRoute>();
    public DbSet<SavedRouteVersion> SavedRouteVersions => Set<SavedRouteVersion>();
    public DbSet<RoutedPage> RoutedPages => Set<RoutedPage>();
    public DbSet<LinkVersion> LinkVersions => Set<LinkVersion>();
    public DbSet<LinkChange> LinkChanges => Set<LinkChange>();
    public DbSet<LinkText> LinkTexts => Set<LinkText>();
    public DbSet<LinkTotal> LinkTotals => Set<LinkTotal>();
    public DbSet<SavedFilter> SavedFilters => Set<SavedFilter>();
    public DbSet<AgreedValue> AgreedValues => Set<AgreedValue>();
    public DbSet<TagMerge> TagMerges => Set<TagMerge>();
    public DbSet<Recipe> Recipes => Set<Recipe>();
    public DbSet<Draft> Drafts => Set<Draft>();
    public DbSet<Batch> Batches => Set<Batch>();
    public DbSet<BatchLine> BatchLines => Set<BatchLine>();
    public DbSet<ListMapping> ListMappings => Set<ListMapping>();
    public DbSet<SavedView> SavedViews => Set<SavedView>();
    public DbSet<ViewShare> ViewShares => Set<ViewShare>();
    public DbSet<SavedCodeStyle> CodeStyles => Set<SavedCodeStyle>();
    public DbSet<LinkCode> LinkCodes => Set<LinkCode>();
    public DbSet<SavedCodeLogo> CodeLogos => Set<SavedCodeLogo>();
    public DbSet<Pixel> Pixels => Set<Pixel>();
    public DbSet<OwnNetwork> AdNetworks => Set<OwnNetwork>();
    public DbSet<HandoffSettings> HandoffSettings => Set<HandoffSettings>();
    public DbSet<PixelOfLink> PixelsOfLinks => Set<PixelOfLink>();
    public DbSet<PixelDay> PixelDays => Set<PixelDay>();
    public DbSet<LinkDay> LinkDays => Set<LinkDay>();
    public DbSet<OpenDay> OpenDays => Set<OpenDay>();
    public DbSet<LinkMonth> LinkMonths => Set<LinkMonth>();
    public DbSet<SealedDays> SealedDays => Set<SealedDays>();
    public DbSet<PartedClicks> PartedClicks => Set<PartedClicks>();
    public DbSet<UserAgent> UserAgents => Set<UserAgent>();
    public DbSet<Referrer> Referrers => Set<Referrer>();
    public DbSet<ReferrerRule> ReferrerRules => Set<ReferrerRule>();
    public DbSet<Journal> Journals => Set<Journal>();
    public DbSet<VisitorSalt> VisitorSalts => Set<VisitorSalt>();
    public DbSet<CheckedPage> CheckedPages => Set<CheckedPage>();
    public DbSet<LinkCheckSettings> LinkCheckSettings => Set<LinkCheckSettings>();
    public DbSet<Webhook> Webhooks => Set<Webhook>();
    public DbSet<WebhookEvent> WebhookEvents => Set<WebhookEvent>();
    public DbSet<WebhookDelivery> WebhookDeliveries => Set<WebhookDelivery>();
    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    /// <summary>Members and whoever has been one: for the names of those who did something.</summary>
    public IQueryable<Member> Everybody => Members.IgnoreQueryFilters();

    /// <summary>The connection and naming that every context of this database shares.</summary>
    public static void Configure(DbContextOptionsBuilder options, string connectionString) =>
        options.UseNpgsql(connectionString, npgsql => npgsql.UseNodaTime()).UseSnakeCaseNamingConvention();

    protected override void OnModelCreating(ModelBuilder builder)
    {
        ArgumentNullException.ThrowIfNull(builder);
        base.OnModelCreating(builder);
        builder.HasPostgresExtension("pg_trgm");
        builder.ApplyConfigurationsFromAssembly(typeof(CursusDb).Assembly);
        builder.Entity<DataProtectionKey>().ToTable("data_protection_keys");
    }
}

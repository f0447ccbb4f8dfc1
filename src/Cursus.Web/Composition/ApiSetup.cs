using System.Text.Json;
using System.Text.Json.Serialization;
using Cursus.Data.Archives;
using Cursus.Web.Access;
using Cursus.Web.Accounts;
using Cursus.Web.Accounts.TwoStep;
using Cursus.Web.Addresses;
using Cursus.Web.Archives;
using Cursus.Web.Audit;
using Cursus.Web.Background;
using Cursus.Web.Batches;
using Cursus.Web.Checking;
using Cursus.Web.Clicks;
using Cursus.Web.Codes;
using Cursus.Web.Finding;
using Cursus.Web.Hosting;
using Cursus.Web.Links;
using Cursus.Web.Links.Bulk;
using Cursus.Web.Links.Routes;
using Cursus.Web.Links.Saving;
using Cursus.Web.Mail;
using Cursus.Web.Outgoing;
using Cursus.Web.People;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Digests;
using Cursus.Web.Reports.Files;
using Cursus.Web.Reports.Pictures;
using Cursus.Web.Reports.Questions;
using Cursus.Web.Reports.Views;
using Cursus.Web.Retargeting;
using Cursus.Web.Runs;
using Cursus.Web.Webhooks;
using Cursus.Web.Workspaces;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Scalar.AspNetCore;

namespace Cursus.Web.Composition;

/// <summary>The public API: its shape, its document and its features.</summary>
public static class ApiSetup
{
    public static void AddApi(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton<RequestCheck>();
        services.AddSingleton<ReportGate>();
        services.AddSingleton<Counting>();
        services.AddSingleton<SavedRequest>();
        services.AddScoped<LinkSaving>();
        services.AddScoped<BulkEditRun>();
        services.AddScoped<TakingOver>();
        services.AddSingleton<LongRuns>();
        services.AddSingleton<ArchiveWriter>();
        services.AddSingleton<ArchiveImport>();
        services.AddScoped<DomainCheck>();
        services.AddScoped<CodesOfWorkspace>();
        services.AddSingleton<NameLookup>();
        services.AddSingleton<OutgoingClient>();
        services.AddSingleton(builder.Configuration.GetSection("Cursus:Mail").Get<MailOptions>() ?? new());
        services.AddSingleton<MailSender>();
        services.AddSingleton<DigestMail>();
        services.AddMemoryCache();
        services.AddSingleton<LoopCheck>();
        services.AddRegularWork<DomainRounds>(
            "domains",
            "Domain check",
            "Looks up the DNS records of short domains that are due.",
            TimeSpan.FromSeconds(5)
        );
        services.AddScoped<AuditTrail>();
        services.AddSingleton<AuditDetail>();
        services.AddScoped<BrowserSignIn>();
        services.AddScoped<AccountChange>();
        services.AddScoped<SecondStep>();
        services.AddScoped<MailQueue>();
        services.AddScoped<MailWriting>();
        services.AddWebhooks();
        services.AddRegularWork<WorkspaceDeletion>(
            "workspace-deletion",
            "Deletion of workspaces",
            "Deletes workspaces 30 days after an owner has asked for it.",
            TimeSpan.FromHours(1)
        );
        if (builder.Configuration.GetSection("Cursus:Mail").Get<MailOptions>() is { Host: { Length: > 0 } })
        {
            services.AddRegularWork<MailSending>("mails", "E-mails", "Sends invitations and e-mails about accounts.", TimeSpan.FromSeconds(3));
            services.AddRegularWork<DigestSending>(
                "digests",
                "Weekly digest",
                "Sends last week’s digest to members who want it, from Monday morning.",
                TimeSpan.FromMinutes(10)
            );
        }

        services.AddExceptionHandler<UnreadableRequests>();
        services.AddProblemDetails(problems =>
            problems.CustomizeProblemDetails = context =>
            {
                // Answers that no endpoint made, such as 404 for an unknown path, carry a code and the next step like all others.
                context.ProblemDetails.Detail ??= "The API has no such operation. It is documented at /api/reference.";
                context.ProblemDetails.Extensions.TryAdd(
                    "code",
                    context.ProblemDetails.Status switch
                    {
                        StatusCodes.Status404NotFound => "not-found",
                        StatusCodes.Status405MethodNotAllowed => "method-not-allowed",
                        StatusCodes.Status415UnsupportedMediaType => "not-json",
                        var status => $"status-{status}",
                    }
                );
            }
        );
        services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
        services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
            json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false));
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
        });
        services.AddOpenApi("v1", document =>
        {
            document.OpenApiVersion = OpenApiSpecVersion.OpenApi3_1;
            document.CreateSchemaReferenceId = type =>
                OpenApiOptions.CreateDefaultSchemaReferenceId(type) is null || FormatOf(type.Type) is not null ? null : NameOf(type.Type);
            document.AddSchemaTransformer(
                (schema, context, _) =>
                {
                    if (FormatOf(context.JsonTypeInfo.Type) is { } format)
                    {
                        var isNullable = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) is not null;
                        schema.Type = isNullable ? JsonSchemaType.String | JsonSchemaType.Null : JsonSchemaType.String;
                        schema.Format = format;
                    }

                    return Task.CompletedTask;
                }
            );
            document.AddOperationTransformer(
                (operation, context, _) =>
                {
                    AskedQuestion.Describe(operation, context.Description.ActionDescriptor.EndpointMetadata);
                    ReferenceExamples.Add(operation, $"{context.Description.HttpMethod}", $"{context.Description.RelativePath}");
                    foreach (var parameter in (operation.Parameters ?? []).OfType<OpenApiParameter>().Where(p => p.In == ParameterLocation.Query))
                    {
                        parameter.Name = JsonNamingPolicy.CamelCase.ConvertName(parameter.Name!);
                    }

                    return Task.CompletedTask;
                }
            );
            document.AddDocumentTransformer(
                (api, _, _) =>
                {
                    api.Info = new()
                    {
                        Title = "Cursus",
                        Version = "v1",
                        Description = "Create short links for each channel, and compare which channels bring people.",
                    };
                    api.Servers = [];
                    api.AddExtension("x-dimensions", new JsonNodeExtension(AskedQuestion.DescribeDimensions()));
                    api.AddExtension("x-link-options", new JsonNodeExtension(LinkOptionsDocument.Describe()));
                    api.AddExtension("x-countries", new JsonNodeExtension(CountriesDocument.Describe()));
                    RequestLimits.Describe(api);
                    ReferenceSections.Describe(api);
                    return Task.CompletedTask;
                }
            );
        });
    }

    public static void MapApi(this WebApplication app)
    {
        var api = app.MapGroup("/api/v1");
        RequestCheck.AddTo(api);
        Installation.Map(api);
        Session.Map(api);
        Workspaces.Workspaces.Map(api);
        WorkspaceSettings.Map(api);
        TimeZoneChange.Map(api);
        WorkspaceEnding.Map(api);
        Profile.Map(api);
        Passwords.Map(api);
        EmailChanges.Map(api);
        SignIns.Map(api);
        TwoStepState.Map(api);
        AuthenticatorApp.Map(api);
        Passkeys.Map(api);
        PasskeySignIn.Map(api);
        DeleteAccount.Map(api);
        Tokens.Map(api);
        Members.Map(api);
        Webhooks.Webhooks.Map(api);
        WebhookLog.Map(api);
        Invitations.Map(api);
        AcceptInvitation.Map(api);
        AuditLog.Map(api);
        BackgroundWork.Map(api);
        CreatePost.Map(api);
        PreviewPost.Map(api);
        ReadPosts.Map(api);
        UndoSending.Map(api);
        SplitVariants.Map(api);
        Drafts.Map(api);
        Recipes.Map(api);
        Batches.Batches.Map(api);
        RunBatch.Map(api);
        ListVocabulary.Map(api);
        BatchFiles.Map(api);
        Channels.Map(api);
        ChannelSet.Map(api);
        ChannelMerge.Map(api);
        Campaigns.Map(api);
        CreateLink.Map(api);
        ReadLinks.Map(api);
        EditLink.Map(api);
        CopyLink.Map(api);
        LinkHistory.Map(api);
        LinkRoutes.Map(api);
        RouteFigures.Map(api);
        SavedRoutes.Map(api);
        BulkEdits.Map(api);
        ExportLinks.Map(api);
        RedirectFiles.Map(api);
        SavedFilters.Map(api);
        LookAtDestination.Map(api);
        CleanDestination.Map(api);
        AgreedValues.Map(api);
        TagSuspicions.Map(api);
        TagMerges.Map(api);
        Folders.Map(api);
        Domains.Map(api);
        Tags.Map(api);
        BreakdownReport.Map(api);
        SeriesReport.Map(api);
        PivotReport.Map(api);
        LifeReport.Map(api);
        VariantsReport.Map(api);
        PaceReport.Map(api);
        PaceFiles.Map(api);
        BreakdownFiles.Map(api);
        PivotFiles.Map(api);
        LifeFiles.Map(api);
        ClickFiles.Map(api);
        PictureFiles.Map(api);
        PageFile.Map(api);
        DigestReport.Map(api);
        SavedViews.Map(api);
        ViewShares.Map(api);
        SharedView.Map(api);
        Pixels.Map(api);
        AttachPixels.Map(api);
        TestFire.Map(api);
        PixelAudience.Map(api);
        DefineAudience.Map(api);
        AdNetworks.Map(api);
        HandoffSetup.Map(api);
        PreviewCode.Map(api);
        CodeFiles.Map(api);
        CodesOfLink.Map(api);
        CodeStyles.Map(api);
        CodeLogos.Map(api);
        CodeBundle.Map(api);
        NoticeSheet.Map(api);
        WatchClicks.Map(api);
        ReferrerRules.Map(api);
        NeedsCare.Map(api);
        HowLinksAreChecked.Map(api);
        ArchiveOfWorkspace.Map(api);
        ReferrersSeen.Map(api);
        Find.Map(api);

        app.MapOpenApi("/api/openapi.json").ForAnybody();
        app.MapScalarApiReference("/api/reference", reference => reference
                    .WithTitle("Cursus API")
                    .WithOpenApiRoutePattern("/api/openapi.json")
                    .WithDefaultHttpClient(ScalarTarget.Shell, ScalarClient.Curl)
                    .DisableDefaultFonts()
                    // Nothing of it leaves this installation.
                    .DisableAgent()
                    .DisableMcp()
                    .DisableTelemetry())
            .ForAnybody();
    }

    /// <summary>Requests and responses stand inside their operation in C#, so the operation's name makes theirs unique:
    /// <c>ChannelsResponse</c>.</summary>
    private static string NameOf(Type type) =>
        type switch
        {
            { IsGenericType: true } =>
                $"{type.Name[..type.Name.IndexOf('`', StringComparison.Ordinal)]}Of{string.Join("And", type.GetGenericArguments().Select(NameOf))}",
            { DeclaringType: { } operation } => operation.Name + type.Name,
            _ => type.Name,
        };

    private static string? FormatOf(Type type) =>
        (Nullable.GetUnderlyingType(type) ?? type) switch
        {
            var t when t == typeof(Instant) => "date-time",
            var t when t == typeof(LocalDate) => "date",
            _ => null,
        };
}

using System.Text.Json.Serialization;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Comparing;
using Cursus.Web.Finding;
using Cursus.Web.Posts;
using Cursus.Web.Problems;
using Microsoft.OpenApi;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Scalar.AspNetCore;

namespace Cursus.Web.Hosting;

/// <summary>The public API: its shape, its document and its features.</summary>
public static class ApiSetup
{
    public static void AddApi(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton<Counting>();
        services.AddExceptionHandler<UnreadableRequests>();
        services.AddProblemDetails(problems => problems.CustomizeProblemDetails = context =>
        {
            // Answers that no endpoint made, such as 404 for an unknown path, carry a code like all others.
            context.ProblemDetails.Extensions.TryAdd("code", context.ProblemDetails.Status switch
            {
                404 => "not-found",
                405 => "method-not-allowed",
                415 => "not-json",
                var status => $"status-{status}",
            });
        });
        services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
        services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
        });
        services.AddOpenApi("v1", document =>
        {
            document.OpenApiVersion = OpenApiSpecVersion.OpenApi3_1;
            document.AddSchemaTransformer((schema, context, _) =>
            {
                DescribeTimes(schema, Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type);
                return Task.CompletedTask;
            });
            document.AddDocumentTransformer((api, _, _) =>
            {
                api.Info = new() { Title = "Cursus", Version = "v1", Description = "Short links for each channel of a post, and which of them brought the people." };
                api.Servers = [];
                return Task.CompletedTask;
            });
        });
    }

    public static void MapApi(this WebApplication app)
    {
        var api = app.MapGroup("/api/v1");
        Installation.Map(api);
        Session.Map(api);
        Members.Map(api);
        Tokens.Map(api);
        CreatePost.Map(api);
        PreviewPost.Map(api);
        ReadPosts.Map(api);
        Channels.Map(api);
        Campaigns.Map(api);
        CreateLink.Map(api);
        ReadLinks.Map(api);
        EditLink.Map(api);
        Domains.Map(api);
        Tags.Map(api);
        BreakdownReport.Map(api);
        SeriesReport.Map(api);
        Find.Map(api);
        api.MapFallback(() => ApiProblem.Of(404, "not-found", "The API has no such path. Its description is at /api/reference."));

        app.MapOpenApi("/api/openapi.json");
        app.MapScalarApiReference("/api/reference", reference => reference
            .WithTitle("Cursus API")
            .WithOpenApiRoutePattern("/api/openapi.json")
            .WithDefaultHttpClient(ScalarTarget.Shell, ScalarClient.Curl)
            .DisableDefaultFonts());
    }

    private static void DescribeTimes(OpenApiSchema schema, Type type)
    {
        var format = type == typeof(Instant) ? "date-time" : type == typeof(LocalDate) ? "date" : null;
        if (format is not null)
        {
            schema.Type = JsonSchemaType.String | (schema.Type & JsonSchemaType.Null);
            schema.Format = format;
            schema.Properties?.Clear();
            schema.Required?.Clear();
        }
    }
}

using Cursus.Data.Schema;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;

namespace Cursus.Web.Composition;

/// <summary>Prepares the installation when it starts, and has members wait until that is done.</summary>
public static class PreparationSetup
{
    private const string RetryAfter = "2";

    public static void AddPreparation(this WebApplicationBuilder builder)
    {
        builder.Services.AddSingleton<Prepared>();
        builder.Services.AddSingleton<Preparation>();
        if (!DocumentBuild.IsRunning)
        {
            builder.Services.AddHostedService(provider => provider.GetRequiredService<Preparation>());
        }
    }

    public static Task Prepare(this WebApplication app) =>
        DocumentBuild.IsRunning ? Task.CompletedTask : app.Services.GetRequiredService<Preparation>().Begin(CancellationToken.None);

    /// <summary>Answers the API's requests with 503 until the database has been brought up to date.</summary>
    public static void UsePrepared(this WebApplication app)
    {
        var prepared = app.Services.GetRequiredService<Prepared>();
        app.Use(
            async (context, next) =>
            {
                if (prepared.IsDone || !context.Request.Path.StartsWithSegments("/api/v1"))
                {
                    await next(context);
                    return;
                }

                context.Response.Headers.RetryAfter = RetryAfter;
                await ApiProblem
                    .Of(
                        503,
                        "database-away",
                        "Cursus has started and is waiting for its database. Short links still work. Try again in a few seconds."
                    )
                    .ExecuteAsync(context);
            }
        );
    }
}

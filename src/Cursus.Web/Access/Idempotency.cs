using System.Security.Cryptography;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Honours <c>Idempotency-Key</c> on POST: a repeat within an hour gets the first answer again, and nothing is made twice.</summary>
public static class Idempotency
{
    private const string Header = "Idempotency-Key";
    private const int MaxKey = 200;
    private const int MaxBody = 256 * 1024;

    private static readonly Duration Alive = Duration.FromSeconds(45);
    private static readonly TimeSpan Renewal = TimeSpan.FromSeconds(15);

    /// <summary>Marks an endpoint whose answers hold a secret that must stand nowhere.</summary>
    public static TBuilder WithSecretAnswer<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new SecretAnswer());

    public static void UseIdempotency(this IApplicationBuilder app) =>
        app.Use(
            async (context, next) =>
            {
                var key = context.Request.Headers[Header].ToString();
                if (key.Length == 0 || !HttpMethods.IsPost(context.Request.Method) || !context.IsForMembers())
                {
                    await next(context);
                    return;
                }

                if (key.Length > MaxKey)
                {
                    await ApiProblem.Of(400, "idempotency-key", $"An Idempotency-Key has at most {MaxKey} characters.").ExecuteAsync(context);
                    return;
                }

                await AnswerOnce(context, key, next);
            }
        );

    private static async Task AnswerOnce(HttpContext context, string key, RequestDelegate next)
    {
        // A context of its own: what the endpoint leaves unsaved in its context must not be saved with the answer.
        await using var scope = context.RequestServices.GetRequiredService<IServiceScopeFactory>().CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var memberId = context.RequestServices.GetRequiredService<CurrentMember>().Id;
        var now = context.RequestServices.GetRequiredService<IClock>().GetCurrentInstant();
        var request = await Describe(context.Request);
        var alive = now + Alive;

        // A key that has expired is free again, and so is one whose process has died over it.
        await db
            .IdempotentAnswers.Where(a =>
                a.MemberId == memberId && a.Key == key && (a.CreatedAt < now - IdempotentAnswer.Life || (a.Status == null && a.AliveUntil < now))
            )
            .ExecuteDeleteAsync(context.RequestAborted);
        var isFirst =
            await db.Database.ExecuteSqlAsync(
                $"insert into idempotent_answers (member_id, key, request, created_at, alive_until) values ({memberId}, {key}, {request}, {now}, {alive}) on conflict do nothing",
                context.RequestAborted
            ) == 1;
        var answer = await db.IdempotentAnswers.SingleAsync(a => a.MemberId == memberId && a.Key == key, context.RequestAborted);
        if (isFirst)
        {
            await RunAndKeep(context, db, answer, next);
        }
        else if (answer.Request != request)
        {
            await ApiProblem
                .Of(422, "idempotency-mismatch", "This Idempotency-Key was used for another request. Use a new key for each new request.")
                .ExecuteAsync(context);
        }
        else if (answer.Status is not { } status)
        {
            context.Response.Headers.RetryAfter = "1";
            await ApiProblem
                .Conflict("idempotency-running", "The first request with this Idempotency-Key is still running. Ask again in a second.")
                .ExecuteAsync(context);
        }
        else if (answer.Body is null)
        {
            await ApiProblem
                .Conflict(
                    "idempotency-done",
                    $"The first request with this Idempotency-Key was completed with status {status}. Its response was not kept, because it contains a secret or is too large. Check what it created, or use a new key."
                )
                .ExecuteAsync(context);
        }
        else
        {
            context.Response.StatusCode = status;
            context.Response.ContentType = answer.ContentType;
            context.Response.Headers.Location = answer.Location;
            context.Response.Headers.ETag = answer.EntityTag;
            await context.Response.Body.WriteAsync(answer.Body, context.RequestAborted);
        }
    }

    private static async Task RunAndKeep(HttpContext context, CursusDb db, IdempotentAnswer answer, RequestDelegate next)
    {
        var body = context.Response.Body;
        using var kept = new MemoryStream();
        context.Response.Body = kept;
        using var done = new CancellationTokenSource();
        var renewing = KeepAlive(context.RequestServices, answer, done.Token);
        try
        {
            await next(context);
        }
        catch
        {
            // Nothing was made, so the key is free again.
            await db.IdempotentAnswers.Where(a => a.MemberId == answer.MemberId && a.Key == answer.Key).ExecuteDeleteAsync(CancellationToken.None);
            throw;
        }
        finally
        {
            context.Response.Body = body;
            await done.CancelAsync();
            await renewing;
        }

        var isKept = kept.Length <= MaxBody && context.GetEndpoint()?.Metadata.GetMetadata<SecretAnswer>() is null;
        var response = context.Response;
        (answer.Status, answer.ContentType, answer.Body) = (response.StatusCode, response.ContentType, isKept ? kept.ToArray() : null);
        (answer.Location, answer.EntityTag) = isKept ? ((string?)response.Headers.Location, (string?)response.Headers.ETag) : (null, null);
        await db.SaveChangesAsync(CancellationToken.None);
        kept.Position = 0;
        await kept.CopyToAsync(body, context.RequestAborted);
    }

    /// <summary>Says again and again that the first request still runs.</summary>
    private static async Task KeepAlive(IServiceProvider services, IdempotentAnswer answer, CancellationToken done)
    {
        using var timer = new PeriodicTimer(Renewal);
        while (await timer.Next(done))
        {
            await using var scope = services.GetRequiredService<IServiceScopeFactory>().CreateAsyncScope();
            var alive = services.GetRequiredService<IClock>().GetCurrentInstant() + Alive;
            try
            {
                await scope
                    .ServiceProvider.GetRequiredService<CursusDb>()
                    .IdempotentAnswers.Where(a => a.MemberId == answer.MemberId && a.Key == answer.Key)
                    .ExecuteUpdateAsync(a => a.SetProperty(x => x.AliveUntil, alive), CancellationToken.None);
            }
            catch (Exception e) when (DatabaseTrouble.IsAway(e))
            {
                // The request itself will fail of it.
            }
        }
    }

    private static async Task<string> Describe(HttpRequest request)
    {
        request.EnableBuffering();
        var hash = await SHA256.HashDataAsync(request.Body, request.HttpContext.RequestAborted);
        request.Body.Position = 0;
        return $"{request.Method} {request.Path}{request.QueryString} {Convert.ToHexStringLower(hash)}";
    }

    private sealed record SecretAnswer;
}

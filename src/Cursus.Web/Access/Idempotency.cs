using System.Security.Cryptography;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Honours <c>Idempotency-Key</c> on POST: a repeat within a day gets the first answer again, and nothing is made twice.</summary>
public static class Idempotency
{
    private const string Header = "Idempotency-Key";
    private const int MaxKey = 200;

    public static void UseIdempotency(this IApplicationBuilder app) => app.Use(async (context, next) =>
    {
        var key = context.Request.Headers[Header].ToString();
        if (key.Length == 0 || !HttpMethods.IsPost(context.Request.Method) || context.GetEndpoint()?.Metadata.GetMetadata<NeedsRole>() is null)
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
    });

    private static async Task AnswerOnce(HttpContext context, string key, RequestDelegate next)
    {
        // A context of its own: what the endpoint leaves unsaved in its context must not be saved with the answer.
        await using var scope = context.RequestServices.GetRequiredService<IServiceScopeFactory>().CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var memberId = context.RequestServices.GetRequiredService<CurrentMember>().Id;
        var now = context.RequestServices.GetRequiredService<IClock>().GetCurrentInstant();
        var request = await Describe(context.Request);
        await db.IdempotentAnswers.Where(a => a.CreatedAt < now - Duration.FromDays(1)).ExecuteDeleteAsync(context.RequestAborted);
        var isFirst = await db.Database.ExecuteSqlAsync(
            $"insert into idempotent_answers (member_id, key, request, created_at) values ({memberId}, {key}, {request}, {now}) on conflict do nothing",
            context.RequestAborted) == 1;
        var answer = await db.IdempotentAnswers.SingleAsync(a => a.MemberId == memberId && a.Key == key, context.RequestAborted);
        if (isFirst)
        {
            await RunAndKeep(context, db, answer, next);
        }
        else if (answer.Request != request)
        {
            await ApiProblem.Of(422, "idempotency-mismatch", "This Idempotency-Key was used for another request. Use a new key for each new request.").ExecuteAsync(context);
        }
        else if (answer.Status is not { } status)
        {
            context.Response.Headers.RetryAfter = "1";
            await ApiProblem.Conflict("idempotency-running", "The first request with this Idempotency-Key is still running. Ask again in a second.").ExecuteAsync(context);
        }
        else
        {
            context.Response.StatusCode = status;
            context.Response.ContentType = answer.ContentType;
            await context.Response.Body.WriteAsync(answer.Body, context.RequestAborted);
        }
    }

    private static async Task RunAndKeep(HttpContext context, CursusDb db, IdempotentAnswer answer, RequestDelegate next)
    {
        var body = context.Response.Body;
        using var kept = new MemoryStream();
        context.Response.Body = kept;
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
        }

        (answer.Status, answer.ContentType, answer.Body) = (context.Response.StatusCode, context.Response.ContentType, kept.ToArray());
        await db.SaveChangesAsync(CancellationToken.None);
        await body.WriteAsync(answer.Body, context.RequestAborted);
    }

    private static async Task<string> Describe(HttpRequest request)
    {
        request.EnableBuffering();
        var hash = await SHA256.HashDataAsync(request.Body, request.HttpContext.RequestAborted);
        request.Body.Position = 0;
        return $"{request.Method} {request.Path} {Convert.ToHexStringLower(hash)}";
    }
}

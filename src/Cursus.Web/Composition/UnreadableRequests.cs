using System.Text.Json;
using Cursus.Data;
using Cursus.Web.Links;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Composition;

/// <summary>Turns requests that could not be read, and our own failures, into problem details.</summary>
internal sealed class UnreadableRequests(IProblemDetailsService problems, ILogger<UnreadableRequests> log) : IExceptionHandler
{
    private const int RetryAfterSeconds = 5;
    private const string WrongType = "This value has the wrong type.";

    public async ValueTask<bool> TryHandleAsync(HttpContext context, Exception exception, CancellationToken cancel)
    {
        var (status, code, detail) = exception switch
        {
            TooManyRequestsException many => (429, many.Code, many.Message),
            BadHttpRequestException { InnerException: JsonException { InnerException: not JsonException } } => (
                422,
                "wrong-type",
                "Some fields have the wrong type, so nothing was saved. See /api/reference for what each field takes."
            ),
            BadHttpRequestException { InnerException: JsonException json } => (
                400,
                "not-json",
                $"The body is not JSON{At(json)}. Check quotes and commas."
            ),
            BadHttpRequestException { StatusCode: StatusCodes.Status400BadRequest }
                when context.Request.ContentLength is null or 0 || IsNothing(exception) => (
                422,
                "body-missing",
                "This request needs a body: a JSON object. See /api/reference for what it takes."
            ),
            BadHttpRequestException { StatusCode: StatusCodes.Status415UnsupportedMediaType } => (
                415,
                "not-json",
                "Send the body as application/json."
            ),
            _ when DatabaseTrouble.IsMadeMeanwhile(exception) || (exception is DbUpdateException failed && LinkVersions.IsOvertaken(failed)) => (
                409,
                "changed-meanwhile",
                "Someone else changed this at the same moment, so your change was not saved. Check it and try again."
            ),
            BadHttpRequestException bad => (bad.StatusCode, "bad-request", "The request could not be read: " + bad.Message),
            _ when DatabaseTrouble.IsTooLong(exception) => (
                503,
                "took-too-long",
                "This took too long and was stopped. Choose a shorter period or fewer links."
            ),
            _ when DatabaseTrouble.IsAway(exception) => (
                503,
                "database-away",
                "The database isn’t responding, so nothing was saved. Short links still work. Try again in a few seconds."
            ),
            _ => (
                500,
                "internal",
                "Something went wrong on the server and nothing was saved. Try again. If it keeps happening, check the server log."
            ),
        };
        if (status == 500)
        {
            log.LogError(exception, "Request to {Path} failed", context.Request.Path);
        }

        if (status is 429 or 503)
        {
            context.Response.Headers.RetryAfter = $"{(exception as TooManyRequestsException)?.Seconds ?? RetryAfterSeconds}";
        }

        context.Response.StatusCode = status;
        var answer = new ProblemDetailsContext
        {
            HttpContext = context,
            ProblemDetails =
            {
                Status = status,
                Detail = detail,
                Extensions = { ["code"] = code },
            },
        };
        if (status == 422)
        {
            answer.ProblemDetails.Extensions["errors"] = new Dictionary<string, string[]>
            {
                [FieldOf(exception.InnerException as JsonException)] = [WrongType],
            };
        }

        return await problems.TryWriteAsync(answer);
    }

    /// <summary>Whether the body was there and said <c>null</c>.</summary>
    private static bool IsNothing(Exception exception) => exception.Message.Contains("no body was provided", StringComparison.Ordinal);

    /// <summary>The field as in all other errors: <c>placements[0].channel</c>; <c>body</c> where it is all of it.</summary>
    private static string FieldOf(JsonException? json) => json?.Path is ['$', '.', .. var field] ? field : "body";

    private static string At(JsonException json) =>
        json.Path is { Length: > 1 } path ? $" (at {path})"
        : json.LineNumber is { } line ? $" (line {line + 1})"
        : "";
}

using Cursus.Core;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Problems;

/// <summary>Errors of the API (RFC 9457), each with a stable <c>code</c> and, where a field is at fault, <c>errors</c> by field.</summary>
public static class ApiProblem
{
    public static ProblemHttpResult Of(int status, string code, string detail, IDictionary<string, object?>? more = null)
    {
        var extensions = new Dictionary<string, object?> { ["code"] = code };
        foreach (var (name, value) in more ?? new Dictionary<string, object?>())
        {
            extensions[name] = value;
        }

        return TypedResults.Problem(detail, statusCode: status, extensions: extensions);
    }

    public static ProblemHttpResult NotFound(string what) =>
        Of(StatusCodes.Status404NotFound, "not-found", $"This workspace has no such {what}. It may have been deleted.");

    public static ProblemHttpResult Invalid(FieldErrors errors) =>
        Of(
            StatusCodes.Status422UnprocessableEntity,
            errors.FirstCode,
            "Some fields need correcting; nothing was saved.",
            new Dictionary<string, object?> { ["errors"] = errors.ByField }
        );

    public static ProblemHttpResult Invalid(string field, ValidationError error)
    {
        var errors = new FieldErrors();
        errors.Add(field, error);
        return Invalid(errors);
    }

    public static ProblemHttpResult Conflict(string code, string detail, IDictionary<string, object?>? more = null) =>
        Of(StatusCodes.Status409Conflict, code, detail, more);
}

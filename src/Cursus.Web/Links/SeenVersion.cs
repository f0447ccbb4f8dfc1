using System.Globalization;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Links;

/// <summary>Whoever changes a link says which version was before their eyes (RFC 9110, sections 8.8.3 and 13.1.1), so that nobody's work is
/// overwritten unseen.</summary>
internal static class SeenVersion
{
    /// <summary>The version as an ETag.</summary>
    public static string Tag(int version) => $"\"{version.ToString(CultureInfo.InvariantCulture)}\"";

    /// <summary>A problem where the request names another version than the link has by now; null where it names this one, any, or none.</summary>
    public static async Task<ProblemHttpResult?> Check(HttpRequest request, Link link, CursusDb db, CancellationToken cancel)
    {
        var seen = request.Headers.IfMatch.ToString();
        return seen.Length == 0 || seen == "*" || seen.Split(',').Any(tag => tag.Trim() == Tag(link.Version))
            ? null
            : await Overtaken(link.ChangedBy, db, cancel);
    }

    /// <summary>Tells who was quicker.</summary>
    public static async Task<ProblemHttpResult> Overtaken(Guid? by, CursusDb db, CancellationToken cancel)
    {
        var name = await db.Everybody.Where(m => m.Id == by).Select(m => m.Account!.Name).FirstOrDefaultAsync(cancel) ?? "Somebody";
        return ApiProblem.Of(
            StatusCodes.Status412PreconditionFailed,
            "changed-meanwhile",
            $"{name} has changed this link since you opened it, so your changes were not saved. Compare the two versions, then save again or cancel."
        );
    }
}

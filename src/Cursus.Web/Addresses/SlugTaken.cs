using Cursus.Data.Addresses;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;

namespace Cursus.Web.Addresses;

/// <summary>The answer to a taken slug: 409 with free alternatives, best first.</summary>
internal static class SlugTaken
{
    /// <summary>Whether saving failed because somebody else has the slug.</summary>
    public static bool Is(PostgresException e) => e is { SqlState: PostgresErrorCodes.UniqueViolation, ConstraintName: AddressesModel.AddressKey };

    public static ProblemHttpResult Problem(IReadOnlyList<(string Field, SlugState State)> taken)
    {
        var first = taken[0].State;
        return ApiProblem.Conflict(
            "slug-taken",
            $"“{first.Slug}” is already taken on this short domain, so nothing was saved. Try {string.Join(", ", first.Alternatives)}.",
            new Dictionary<string, object?>
            {
                ["alternatives"] = first.Alternatives,
                ["errors"] = taken.ToDictionary(
                    t => t.Field,
                    t => new[] { $"“{t.State.Slug}” is already taken. Try {string.Join(", ", t.State.Alternatives)}." }
                ),
                ["taken"] = taken.ToDictionary(t => t.Field, t => t.State.Alternatives),
            }
        );
    }
}

using Cursus.Core.Clicks;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>/account/sign-ins: the browsers in which the person is signed in.</summary>
public static class SignIns
{
    /// <param name="Device">Browser and system, such as “Firefox on Windows”; null if unknown.</param>
    /// <param name="Place">Country of the network address; null if unknown.</param>
    /// <param name="LastUsedAt">When it was last used, to within a day.</param>
    /// <param name="IsCurrent">Whether this request comes from it.</param>
    public sealed record Response(Guid Id, string? Device, string? Address, string? Place, Instant CreatedAt, Instant LastUsedAt, bool IsCurrent);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/account/sign-ins", List).ForViewers().BeforeTwoSteps().WithSummary("Where I am signed in");
        api.MapDelete("/account/sign-ins", EndOthers).ForViewers().BeforeTwoSteps().WithSummary("Sign out in all other browsers");
        api.MapDelete("/account/sign-ins/{id:guid}", End).ForViewers().BeforeTwoSteps().WithSummary("Sign out in one browser");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        HttpContext context,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var current = AccessCookies.SignInOf(context);
        return TypedResults.Ok(
            await page.Of(
                db.SignIns.Where(s => s.AccountId == member.Account.Id).OrderByDescending(s => s.Id == current).ThenByDescending(s => s.LastUsedAt),
                s => new Response(
                    s.Id,
                    s.Device,
                    s.Address,
                    s.Country == null ? null : CountryNames.Of(s.Country),
                    s.CreatedAt,
                    s.LastUsedAt,
                    s.Id == current
                ),
                cancel
            )
        );
    }

    private static async Task<NoContent> EndOthers(HttpContext context, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var current = AccessCookies.SignInOf(context);
        await db.SignIns.Where(s => s.AccountId == member.Account.Id && s.Id != current).ExecuteDeleteAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> End(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await db.SignIns.Where(s => s.AccountId == member.Account.Id && s.Id == id).ExecuteDeleteAsync(cancel) == 1
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("sign-in");
}

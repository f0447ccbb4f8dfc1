using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Mail;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>GET and PATCH /account: what belongs to the person, in whatever workspace.</summary>
public static class Profile
{
    /// <summary>The longest name of a person, in characters.</summary>
    internal const int MaxName = 100;

    /// <param name="NumberLanguage">How numbers are written for this person, as a language tag; null for the workspace’s way.</param>
    /// <param name="NumberLanguages">The available tags.</param>
    /// <param name="StartPage">The view after sign-in.</param>
    /// <param name="NewEmail">An e-mail address that waits to be confirmed; null if none.</param>
    /// <param name="CanMail">Whether e-mails can be sent, as changing the address needs.</param>
    public sealed record Response(
        string Name,
        string Email,
        string? NumberLanguage,
        IReadOnlyList<string> NumberLanguages,
        StartPage StartPage,
        string? NewEmail,
        bool CanMail
    );

    /// <summary>Omitted fields stay as they are.</summary>
    /// <param name="NumberLanguage">An empty string for the workspace’s way.</param>
    public sealed record Edit(string? Name = null, string? NumberLanguage = null, StartPage? StartPage = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/account", Get).ForViewers().BeforeTwoSteps().WithSummary("My account");
        api.MapPatch("/account", Change).ForViewers().BeforeTwoSteps().WithSummary("Change my name and what I like");
    }

    private static async Task<Ok<Response>> Get(CurrentMember member, CursusDb db, MailQueue mails, IClock clock, CancellationToken cancel) =>
        TypedResults.Ok(await Of(member.Account, db, mails, clock, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Edit request,
        CurrentMember member,
        CursusDb db,
        MailQueue mails,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var account = await db.Users.SingleAsync(a => a.Id == member.Account.Id, cancel);
        account.Name = request.Name is null ? account.Name : ReadName(request.Name, errors);
        account.NumberLanguage = request.NumberLanguage is null ? account.NumberLanguage : NullIfEmpty(request.NumberLanguage);
        account.StartPage = request.StartPage ?? account.StartPage;
        if (account.NumberLanguage is { } language && !NumberLanguage.Tags.Contains(language))
        {
            errors.Add("numberLanguage", NumberLanguage.Error(language));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(await Of(account, db, mails, clock, cancel));
    }

    /// <summary>A person's name as it was typed.</summary>
    internal static string ReadName(string? typed, FieldErrors errors)
    {
        var name = typed?.Trim() ?? "";
        if (name.Length is 0 or > MaxName)
        {
            errors.Add("name", new ValidationError("name", $"Enter your name, at most {MaxName} characters."));
        }

        return name;
    }

    private static string? NullIfEmpty(string text) => text.Length == 0 ? null : text;

    private static async Task<Response> Of(Account account, CursusDb db, MailQueue mails, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var change = await db.EmailChanges.SingleOrDefaultAsync(c => c.AccountId == account.Id && c.ExpiresAt > now, cancel);
        return new(account.Name, account.Email!, account.NumberLanguage, NumberLanguage.Tags, account.StartPage, change?.NewEmail, mails.IsSetUp);
    }
}

using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Clicks;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Retargeting;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Edge.Handoff;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Drawing;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Retargeting;

/// <summary>/handoff: whom the workspace asks before pixels fire, in which words, and how its handoff page looks.</summary>
public static class HandoffSetup
{
    private const int MaxQuestion = 400;
    private const int MaxLine = 80;

    /// <param name="Questions">The workspace's own question by language; other languages use the shipped one.</param>
    /// <param name="ShippedQuestions">The shipped question by language.</param>
    /// <param name="Logo">The logo as a data address; null for none.</param>
    /// <param name="Contrast">Contrast of the text with its background; at least 4.5.</param>
    public sealed record Response(
        ConsentMode Consent,
        IReadOnlyList<string> Countries,
        IReadOnlyDictionary<string, string> Questions,
        IReadOnlyDictionary<string, string> ShippedQuestions,
        string? PrivacyPage,
        string? Line,
        string? Logo,
        string Paper,
        string Ink,
        double Contrast
    );

    /// <summary>Omitted fields stay as they are; an empty string removes a page, line or question.</summary>
    public sealed record Edit(
        ConsentMode? Consent = null,
        IReadOnlyList<string>? Countries = null,
        IReadOnlyDictionary<string, string>? Questions = null,
        string? PrivacyPage = null,
        string? Line = null,
        string? Paper = null,
        string? Ink = null
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/handoff", Get).ForViewers().WithSummary("Handoff page settings");
        api.MapPatch("/handoff", Change).ForOwners().WithSummary("Change handoff page settings");
        api.MapPut("/handoff/logo", SetLogo)
            .ForOwners()
            .Accepts<byte[]>("image/png", "image/jpeg", "image/webp")
            .WithSummary("Set the handoff page’s logo; it is scaled down");
        api.MapDelete("/handoff/logo", RemoveLogo).ForOwners().WithSummary("Remove the logo");
        api.MapGet("/handoff/page", ShowPage).ForViewers().WithSummary("The handoff page as visitors see it, without its pixels");
    }

    private static async Task<Ok<Response>> Get(CurrentMember member, CursusDb db, CancellationToken cancel) =>
        TypedResults.Ok(Of(await Find(db, member, cancel)));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Edit request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        AuditDetail details,
        CancellationToken cancel
    )
    {
        var settings = await Find(db, member, cancel);
        var (errors, before) = (new FieldErrors(), Of(settings));
        settings.Consent = request.Consent ?? settings.Consent;
        settings.Countries = request.Countries is null ? settings.Countries : ReadCountries(request.Countries, errors);
        settings.Questions = request.Questions is null ? settings.Questions : ReadQuestions(request.Questions, errors);
        settings.PrivacyPage = request.PrivacyPage is null ? settings.PrivacyPage : ReadPage(request.PrivacyPage, errors);
        settings.Line =
            request.Line is null ? settings.Line
            : request.Line.Trim() is { Length: > 0 } line ? line
            : null;
        settings.Paper = request.Paper?.Trim() ?? settings.Paper;
        settings.Ink = request.Ink?.Trim() ?? settings.Ink;
        if (settings.Line?.Length > MaxLine)
        {
            errors.Add("line", new ValidationError("line-too-long", $"The text has more than {MaxLine} characters. Shorten it."));
        }

        CheckColors(settings, errors);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (details.Of(before, Of(settings)) is { } detail)
        {
            audit.Add(AuditAction.SettingsChanged, "handoff", detail: detail);
        }

        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(Of(settings));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> SetLogo(
        HttpRequest request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CancellationToken cancel
    )
    {
        var (upload, tooLarge) = await LogoUpload.Read(request, cancel);
        var (address, error) = upload is null ? (null, tooLarge) : LogoPicture.Shrink(upload);
        if (error is not null)
        {
            return ApiProblem.Invalid("logo", error);
        }

        return TypedResults.Ok(await SaveLogo(address, member, db, feed, cancel));
    }

    private static async Task<Ok<Response>> RemoveLogo(CurrentMember member, CursusDb db, LinkFeed feed, CancellationToken cancel) =>
        TypedResults.Ok(await SaveLogo(null, member, db, feed, cancel));

    private static async Task<Response> SaveLogo(string? address, CurrentMember member, CursusDb db, LinkFeed feed, CancellationToken cancel)
    {
        var settings = await Find(db, member, cancel);
        settings.Logo = address;
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return Of(settings);
    }

    /// <param name="language">Shows the question in this language; without it, the page of somebody who isn't asked.</param>
    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> ShowPage(
        string? language,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (language is not null && !ConsentWords.Languages.Contains(language))
        {
            return ApiProblem.Invalid("language", UnknownLanguage(language));
        }

        var settings = PixelFeed.HandoffSettingsOf(member.Workspace.ShownName, await Find(db, member, cancel));
        var networks = await db
            .Pixels.Where(p => p.WorkspaceId == member.WorkspaceId)
            .OrderBy(p => p.Name)
            .Select(p => p.Network)
            .Distinct()
            .ToListAsync(cancel);
        var known = await KnownNetworks.Load(db, member.WorkspaceId, cancel);
        var used = networks.Select(known.Find).OfType<AdNetwork>().ToList();
        var question = language is null ? null : HandoffAnswer.Question(settings, language, used.Select(n => n.Consent).DefaultIfEmpty());
        return TypedResults.Text(settings.Look.Sample(question, [.. used.Select(n => n.Name)]), "text/html");
    }

    private static string[] ReadCountries(IReadOnlyList<string> typed, FieldErrors errors)
    {
        string[] countries = [.. typed.Select(c => (c ?? "").Trim().ToUpperInvariant()).Distinct().Order(StringComparer.Ordinal)];
        if (countries.FirstOrDefault(c => !CountryNames.Codes.Contains(c)) is { } unknown)
        {
            errors.Add(
                "countries",
                new ValidationError("country-unknown", $"“{unknown}” isn’t an ISO 3166-1 country code. Use two letters, such as DE.")
            );
        }

        return countries;
    }

    private static string ReadQuestions(IReadOnlyDictionary<string, string> typed, FieldErrors errors)
    {
        foreach (var (language, question) in typed)
        {
            if (!ConsentWords.Languages.Contains(language))
            {
                errors.Add("questions", UnknownLanguage(language));
            }

            if (question?.Length > MaxQuestion)
            {
                errors.Add(
                    "questions",
                    new ValidationError("question-too-long", $"The question in “{language}” has more than {MaxQuestion} characters. Shorten it.")
                );
            }
        }

        return JsonSerializer.Serialize(typed.Where(q => !string.IsNullOrWhiteSpace(q.Value)).ToDictionary(q => q.Key, q => q.Value.Trim()));
    }

    private static ValidationError UnknownLanguage(string language) =>
        new("language-unknown", $"There is no text in “{language}”. Languages are {string.Join(", ", ConsentWords.Languages)}.");

    private static string? ReadPage(string typed, FieldErrors errors)
    {
        if (string.IsNullOrWhiteSpace(typed))
        {
            return null;
        }

        if (Destination.TryParse(typed, out var page, out var error))
        {
            return page.Address.ToString();
        }

        errors.Add("privacyPage", error);
        return null;
    }

    private static void CheckColors(HandoffSettings settings, FieldErrors errors)
    {
        if (!ColorContrast.TryParse(settings.Paper, out var paper) || !ColorContrast.TryParse(settings.Ink, out var ink))
        {
            errors.Add("paper", new ValidationError("color", "Write a colour as # and six hex digits, such as #6e2a5b."));
        }
        else if (ColorContrast.Ratio(paper.Value, ink.Value) is < ColorContrast.Text and var ratio)
        {
            errors.Add(
                "ink",
                new ValidationError(
                    "contrast",
                    $"This text would be hard to read: its contrast is {ratio:0.0} to 1, and at least {ColorContrast.Text} to 1 is needed. Choose a darker or a lighter colour."
                )
            );
        }
    }

    /// <summary>The workspace's settings, or new ones with the defaults that are saved with the next change.</summary>
    private static async Task<HandoffSettings> Find(CursusDb db, CurrentMember member, CancellationToken cancel)
    {
        var settings = await db.HandoffSettings.SingleOrDefaultAsync(s => s.WorkspaceId == member.WorkspaceId, cancel);
        return settings ?? db.Add(new HandoffSettings { WorkspaceId = member.WorkspaceId }).Entity;
    }

    private static Response Of(HandoffSettings s) =>
        new(
            s.Consent,
            s.Countries,
            JsonSerializer.Deserialize<Dictionary<string, string>>(s.Questions) ?? [],
            ConsentWords.Languages.ToDictionary(l => l, l => ConsentWords.In(l).Question),
            s.PrivacyPage,
            s.Line,
            s.Logo,
            s.Paper,
            s.Ink,
            ColorContrast.TryParse(s.Paper, out var paper) && ColorContrast.TryParse(s.Ink, out var ink)
                ? Math.Round(ColorContrast.Ratio(paper.Value, ink.Value), 2)
                : 1
        );
}

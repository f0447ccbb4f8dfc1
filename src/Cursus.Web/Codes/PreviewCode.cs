using System.Text;
using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Codes;

/// <summary>POST /codes/preview and /codes/check: a code while its look is being chosen. The picture comes at once; the read-back, which takes
/// longer, by itself.</summary>
public static class PreviewCode
{
    private const double PreviewWidth = 320;

    /// <param name="Link">The link whose code it is; if omitted, an invented address on the workspace's first short domain.</param>
    /// <param name="Code">Number of the code within its link.</param>
    /// <param name="Place">Key of the place where it will be seen; see <c>/codes/places</c>.</param>
    public sealed record Request(CodeStyle Style, Guid? Link = null, int Code = ScannedPath.OwnCode, string? Place = null);

    /// <param name="Address">The address in the code, as a person would write it.</param>
    /// <param name="Text">As scanners read it.</param>
    /// <param name="Side">Modules on one side, without the quiet zone.</param>
    /// <param name="ModulesSaved">How many modules it saves compared with the address as written.</param>
    /// <param name="ModuleMm">Width of one module at that place; null if no place is given.</param>
    /// <param name="Findings">Findings of the rules that need no test scan.</param>
    public sealed record Response(
        string Svg,
        string Address,
        string Text,
        int Version,
        CorrectionLevel Level,
        int Side,
        int ModulesSaved,
        double? ModuleMm,
        IReadOnlyList<CodeFinding> Findings
    );

    /// <param name="WidthMm">Width of the code.</param>
    /// <param name="DistanceMetres">Viewing distance.</param>
    public sealed record PlaceResponse(string Key, string Name, int WidthMm, double DistanceMetres);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/codes/places", () => TypedResults.Ok(PrintPlace.All.Select(p => new PlaceResponse(p.Key, p.Name, p.WidthMm, p.DistanceMetres))))
            .ForViewers()
            .WithSummary("Viewing distances and the code width each one needs");
        api.MapPost("/codes/preview", Preview).ForViewers().OnlyReading().WithSummary("Preview a style as SVG, with findings");
        api.MapPost("/codes/check", Check).ForViewers().OnlyReading().WithSummary("Test whether a code scans when its picture is degraded");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Preview(
        Request request,
        CodesOfWorkspace codes,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var place = ReadPlace(request.Place, errors);
        if (await Read(request, errors, codes, member, db, options, cancel) is not { } code)
        {
            return errors.Any ? ApiProblem.Invalid(errors) : ApiProblem.NotFound("link");
        }

        var (symbol, style) = (code.Symbol, code.Style);
        var findings = CodeCheck.Of(style, symbol, code.LogoAspect).ToList();
        if (place is not null && CodeCheck.Printed(style, symbol, place) is { } small)
        {
            findings.Add(small);
        }

        return TypedResults.Ok(
            new Response(
                Encoding.UTF8.GetString(CodePictures.Svg(code, PreviewWidth)),
                code.Address,
                symbol.Payload.Text,
                symbol.Size.Version,
                symbol.Size.Level,
                symbol.Side,
                symbol.Payload.ModulesSaved(symbol.Size.Level),
                place is null ? null : Math.Round(place.ModuleMm(symbol.Side + 2 * style.QuietZone), 2),
                findings
            )
        );
    }

    private static async Task<Results<Ok<CodeJudgement>, ProblemHttpResult>> Check(
        Request request,
        CodesOfWorkspace codes,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        return await Read(request, errors, codes, member, db, options, cancel) is { } code ? TypedResults.Ok(CodeJudgement.Of(code))
            : errors.Any ? ApiProblem.Invalid(errors)
            : ApiProblem.NotFound("link");
    }

    /// <summary>A place by its key; null without one.</summary>
    internal static PrintPlace? ReadPlace(string? key, FieldErrors errors)
    {
        var place = PrintPlace.All.FirstOrDefault(p => p.Key == key);
        if (key is not null && place is null)
        {
            errors.Add(
                "place",
                new ValidationError(
                    "place-unknown",
                    $"There is no viewing distance “{key}”. Choose one of {string.Join(", ", PrintPlace.All.Select(p => p.Key))}."
                )
            );
        }

        return place;
    }

    /// <summary>The code that is asked about; null with errors, or without where there is no such link.</summary>
    private static async Task<FinishedCode?> Read(
        Request request,
        FieldErrors errors,
        CodesOfWorkspace codes,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var logo = await codes.CheckStyle(request.Style, errors, "style", cancel);
        if (request.Code is < ScannedPath.OwnCode or > ScannedPath.MostCodes)
        {
            errors.Add("code", CodesOfLink.NoSuchCode(request.Code));
        }

        var address = request.Link is { } id
            ? await codes.FindLink(id, cancel) is { } link
                ? codes.ShortUrl(link)
                : null
            : options.ShortUrl(
                await db
                    .Domains.Where(d => d.WorkspaceId == member.WorkspaceId)
                    .OrderBy(d => d.CreatedAt)
                    .Select(d => d.Name)
                    .FirstOrDefaultAsync(cancel)
                    ?? "short.example",
                "winter-members"
            );
        return errors.Any || address is null ? null : FinishedCode.Of(address, request.Code, request.Style, logo);
    }
}

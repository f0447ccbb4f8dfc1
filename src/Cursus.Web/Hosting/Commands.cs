using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Hosting;

/// <summary>What the program does besides serving: <c>token</c>.</summary>
public static class Commands
{
    /// <summary>Runs the command named first; returns its exit code, or null where the program should serve.</summary>
    public static async Task<int?> Run(WebApplication app, string[] args)
    {
        await using var scope = app.Services.CreateAsyncScope();
        return args.FirstOrDefault() switch
        {
            "token" => await MakeToken(scope.ServiceProvider, app.Configuration["email"] ?? ""),
            _ => null,
        };
    }

    private static async Task<int> MakeToken(IServiceProvider services, string email)
    {
        var db = services.GetRequiredService<CursusDb>();
        var normalized = email.Trim().ToUpperInvariant();
        var member = await db.Members.Where(m => m.Account!.NormalizedEmail == normalized).OrderBy(m => m.CreatedAt).FirstOrDefaultAsync();
        if (member is null)
        {
            await Console.Error.WriteLineAsync($"Nobody with the e-mail address “{email}” is a member here.");
            return 1;
        }

        var (token, text) = ApiToken.Make(member.Id, "command line", services.GetRequiredService<IClock>().GetCurrentInstant());
        db.Add(token);
        await db.SaveChangesAsync();
        Console.WriteLine(text);
        return 0;
    }
}

using Cursus.Data.Workspaces;

namespace Cursus.Web.Access;

/// <summary>Addresses below <c>/w/KEY</c> mean one workspace, so that two tabs can show two. They are the same views and operations as without it:
/// the key becomes the base of the request's path.</summary>
internal static class WorkspaceAddress
{
    private const string Prefix = "/w";

    /// <summary>The path of a workspace's own addresses.</summary>
    public static string PathOf(Workspace workspace) => $"{Prefix}/{workspace.Key}";

    /// <summary>The workspace that a request's address names; null where it names none.</summary>
    public static string? KeyOf(HttpContext context) =>
        context.Request.PathBase.StartsWithSegments(Prefix, out var rest) ? rest.Value?.TrimStart('/') : null;

    public static void UseWorkspaceAddresses(this IApplicationBuilder app) =>
        app.Use(
            (context, next) =>
            {
                var request = context.Request;
                if (request.Path.StartsWithSegments(Prefix, out var rest) && rest.Value?.Split('/', 3) is ["", { Length: > 0 } key, ..])
                {
                    request.PathBase = $"{Prefix}/{key}";
                    request.Path = rest.Value[(key.Length + 1)..] is { Length: > 0 } path ? path : "/";
                    context.Response.OnStarting(StayBelow, context);
                }

                return next(context);
            }
        );

    /// <summary>What was made is read where it was made.</summary>
    private static Task StayBelow(object state)
    {
        var context = (HttpContext)state;
        if (context.Response.Headers.Location.ToString() is ['/', 'a', 'p', 'i', '/', ..] made)
        {
            context.Response.Headers.Location = context.Request.PathBase + made;
        }

        return Task.CompletedTask;
    }
}

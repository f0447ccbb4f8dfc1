using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Audit;

/// <summary>Has exports noted in the audit log, before the first byte goes out.</summary>
internal static class NotedExports
{
    /// <param name="kind">What is taken away, as the API's paths name it.</param>
    public static RouteHandlerBuilder NotedAsExport(this RouteHandlerBuilder endpoint, string kind) =>
        endpoint.AddEndpointFilter(
            async (context, next) =>
            {
                var result = await next(context);
                var answer = result is INestedHttpResult { Result: var inner } ? inner : result;
                if (answer is not ProblemHttpResult)
                {
                    var services = context.HttpContext.RequestServices;
                    services.GetRequiredService<AuditTrail>().Add(AuditAction.Exported, kind);
                    await services.GetRequiredService<CursusDb>().SaveChangesAsync(context.HttpContext.RequestAborted);
                }

                return result;
            }
        );
}

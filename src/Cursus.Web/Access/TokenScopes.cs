using Cursus.Data.Workspaces;

namespace Cursus.Web.Access;

/// <summary>What API tokens of a narrower <see cref="TokenScope"/> may call: whatever only reads, and beyond that what says so here.</summary>
internal static class TokenScopes
{
    /// <summary>Tokens that only read may call this too: it takes a request's body, and changes nothing.</summary>
    public static TBuilder OnlyReading<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new Reading());

    /// <summary>Tokens that make links may call this.</summary>
    public static TBuilder MakingLinks<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new Making());

    /// <summary>Whether a token of this scope may make this request.</summary>
    public static bool Allows(TokenScope scope, HttpContext context)
    {
        var (metadata, reads) = (context.GetEndpoint()?.Metadata, Reads(context));
        return scope switch
        {
            TokenScope.Everything => true,
            TokenScope.MakeLinks => reads || metadata?.GetMetadata<Making>() is not null,
            _ => reads,
        };
    }

    /// <summary>Whether a request changes nothing.</summary>
    public static bool Reads(HttpContext context) =>
        HttpMethods.IsGet(context.Request.Method)
        || HttpMethods.IsHead(context.Request.Method)
        || context.GetEndpoint()?.Metadata.GetMetadata<Reading>() is not null;

    private sealed record Reading;

    private sealed record Making;
}

using Cursus.Data.Workspaces;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Who makes this request, in which workspace and role. Filled by <see cref="MemberHandler"/> before an endpoint runs.</summary>
public sealed class CurrentMember
{
    private Member? member;

    /// <summary>Name of the API token that the request came with; null in a browser.</summary>
    public string? Token { get; private set; }

    /// <summary>Who is given so many requests a second: each token by itself, and a person in all browsers.</summary>
    public Guid AskedBy { get; private set; }

    public Guid Id => Known.Id;

    public Guid WorkspaceId => Known.WorkspaceId;

    public Role Role => Known.Role;

    /// <summary>Whether the digest comes by e-mail.</summary>
    public bool WantsDigest => Known.WantsDigest;

    public Workspace Workspace => Known.Workspace!;

    public Account Account => Known.Account!;

    /// <summary>How numbers are written for this person.</summary>
    public string NumberLanguage => Account.NumberLanguage ?? Workspace.NumberLanguage;

    /// <summary>The zone in which this workspace's days are cut.</summary>
    public DateTimeZone Zone => DateTimeZoneProviders.Tzdb[Workspace.TimeZone];

    /// <summary>Whether they have yet to set up two-step sign-in, which the workspace asks for.</summary>
    public bool NeedsTwoSteps => MemberHandler.NeedsTwoSteps(Known);

    private Member Known => member ?? throw new InvalidOperationException("This endpoint does not ask for a member.");

    internal void Is(Member who, string? token = null, Guid? tokenId = null) => (member, Token, AskedBy) = (who, token, tokenId ?? who.Id);
}

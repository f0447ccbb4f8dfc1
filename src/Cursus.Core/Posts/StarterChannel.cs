namespace Cursus.Core.Posts;

/// <summary>A channel that a new workspace is offered, in generic words to keep or rename. Source and medium follow common practice, no
/// source.</summary>
/// <param name="Name">Its name until someone renames it.</param>
/// <param name="Medium">The <c>utm_medium</c> of its links. The source is made from the name.</param>
/// <param name="Signet">Its two-letter mark.</param>
/// <param name="Color">Place in the set of ten colours, 0 to 9.</param>
/// <param name="IsUsual">Whether it is ticked at first, because most workspaces have it.</param>
public sealed record StarterChannel(string Name, string Medium, string Signet, short Color, bool IsUsual)
{
    /// <summary>Nine kinds of place that posts go to, the most used first.</summary>
    public static IReadOnlyList<StarterChannel> All { get; } =
    [
        new("Professional network", "social", "Pn", 4, true),
        new("Short posts", "social", "Sp", 1, true),
        new("Friends and groups", "social", "Fg", 7, true),
        new("Newsletter", "email", "Nl", 0, true),
        new("Pictures", "social", "Pi", 9, false),
        new("Video", "video", "Vi", 2, false),
        new("Text message", "sms", "Tm", 5, false),
        new("Poster", "print", "Po", 6, false),
        new("Partner", "referral", "Pa", 3, false),
    ];
}

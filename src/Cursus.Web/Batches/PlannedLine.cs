using Cursus.Core.Batches;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Saving;

namespace Cursus.Web.Batches;

/// <summary>One link to be made from a line, or one that is there and becomes what the line says.</summary>
/// <param name="Said">What the line itself says of a link that it takes over, but for its tags.</param>
internal sealed record PlannedLine(int Line, LinkPlan Link, LinePast Past, ListedLink Said)
{
    public LineOutcome Outcome { get; init; } = LineOutcome.Made;

    /// <summary>The link that is taken over.</summary>
    public Guid? TakesOver { get; init; }

    /// <summary>Why it needs attention.</summary>
    public string? Remark { get; init; }

    public string FinalUrl => Link.Destination.FinishedWith(Link.Sent).ToString();

    /// <summary>Null if the slug is generated when the link is created.</summary>
    public string? ShortUrl(CursusOptions options) => Link.Slug is { } slug ? options.ShortUrl(Link.Domain.Name, slug.Text) : null;
}

/// <summary>A line that nothing is made of.</summary>
/// <param name="Address">As written.</param>
internal sealed record LeftOutLine(int Line, LineOutcome Outcome, string Address, string Remark);

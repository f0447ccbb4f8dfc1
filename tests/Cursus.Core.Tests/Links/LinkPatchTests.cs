using System.Reflection;
using Cursus.Core.Links;

namespace Cursus.Core.Tests.Links;

public class LinkPatchTests
{
    private static readonly LinkState Link = new()
    {
        DomainId = Guid.NewGuid(),
        Slug = "meteors",
        Title = "Meteors",
        Destination = "https://www.northmoor.example/meteors",
        FinalUrl = "https://www.northmoor.example/meteors",
        Note = "From the leaflet",
        FolderId = Guid.NewGuid(),
    };

    [Fact]
    public void What_says_nothing_changes_nothing() => new LinkPatch().Over(Link).ToJson().ShouldBe(Link.ToJson());

    [Fact]
    public void Nothing_said_is_not_the_same_as_nothing_wanted()
    {
        new LinkPatch { Note = Patch.To<string?>(null) }
            .Over(Link)
            .Note.ShouldBeNull();
        new LinkPatch { FolderId = Patch.If(true, (Guid?)null) }
            .Over(Link)
            .FolderId.ShouldBeNull();
        new LinkPatch { FolderId = Patch.If(false, (Guid?)null) }
            .Over(Link)
            .FolderId.ShouldBe(Link.FolderId);
    }

    /// <summary>A field that is added to links and forgotten here could never be changed.</summary>
    [Fact]
    public void Everything_that_can_be_changed_can_be_said()
    {
        // The address is changed apart, the finished address follows, and what was counted elsewhere is never changed.
        string[] apart = [nameof(LinkState.DomainId), nameof(LinkState.Slug), nameof(LinkState.FinalUrl), nameof(LinkState.ImportedClicks)];
        Names(typeof(LinkPatch)).ShouldBe(Names(typeof(LinkState)).Except(apart), ignoreOrder: true);
    }

    private static IEnumerable<string> Names(Type type) => type.GetProperties(BindingFlags.Public | BindingFlags.Instance).Select(p => p.Name);
}

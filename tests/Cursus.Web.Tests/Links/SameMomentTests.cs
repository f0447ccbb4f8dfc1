using System.Net;
using System.Net.Http.Json;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Links;

/// <summary>Colleagues who do the same thing at the same moment.</summary>
public class SameMomentTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Links_that_get_the_same_new_tag_at_once_are_saved_or_sent_back_and_there_is_one_tag()
    {
        var world = await World.Make(app);
        for (var round = 0; round < 8; round++)
        {
            var answers = await Task.WhenAll(
                Enumerable
                    .Range(0, 4)
                    .Select(n =>
                        world.Editor.PostAsJsonAsync(
                            "/api/v1/links",
                            new { destination = $"https://www.northmoor.example/{round}/{n}", tags = new[] { $"tag {round}" } },
                            Cancel
                        )
                    )
            );
            answers.ShouldContain(a => a.StatusCode == HttpStatusCode.Created);
            foreach (var refused in answers.Where(a => a.StatusCode != HttpStatusCode.Created))
            {
                refused.StatusCode.ShouldBe(HttpStatusCode.Conflict);
                ((string)(await World.Read(refused))["code"]!).ShouldBe("changed-meanwhile");
            }
        }

        await using var db = app.Database();
        (await db.Tags.CountAsync(t => t.WorkspaceId == world.Workspace.Id, Cancel)).ShouldBe(8);
    }
}

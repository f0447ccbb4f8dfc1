using System.Reflection;
using System.Text.Json.Serialization;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Core.Tests.Links;

/// <summary>What the history tells of two versions.</summary>
public class LinkDifferenceTests
{
    private static readonly (Guid Id, string Name)[] Things =
    [
        .. new[] { "nmoor.localhost", "Winter members", "Shop", "event", "members", "Fairlead", "Perch", "Shop by country" }.Select(n =>
            (Guid.NewGuid(), n)
        ),
    ];

    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static readonly LinkState Plain = new()
    {
        DomainId = Things[0].Id,
        Slug = "moon",
        Title = "Moon",
        Destination = "https://northmoor.example/moon",
        FinalUrl = "https://northmoor.example/moon",
    };

    [Fact]
    public void Each_thing_that_can_be_changed_is_told_when_it_is()
    {
        var changes = new (LinkField Field, LinkState After, string? From, string? To)[]
        {
            (LinkField.Address, Plain with { Slug = "full-moon" }, "nmoor.localhost/moon", "nmoor.localhost/full-moon"),
            (LinkField.Title, Plain with { Title = "Full moon" }, "Moon", "Full moon"),
            (
                LinkField.Destination,
                Plain with
                {
                    Destination = "https://northmoor.example/full",
                },
                "https://northmoor.example/moon",
                "https://northmoor.example/full"
            ),
            (LinkField.Fallback, Plain with { Fallback = "https://northmoor.example/" }, null, "https://northmoor.example/"),
            (LinkField.Opens, Plain with { OpensAt = Instant.FromUtc(2026, 7, 1, 8, 0) }, null, "1 Jul 2026, 09:00"),
            (LinkField.Ends, Plain with { EndsAt = Instant.FromUtc(2026, 12, 1, 0, 0) }, null, "30 Nov 2026"),
            (LinkField.Channel, Plain with { ChannelId = Things[6].Id }, null, "Perch"),
            (LinkField.Campaign, Plain with { CampaignId = Things[1].Id }, null, "Winter members"),
            (LinkField.Source, Plain with { Source = "perch" }, null, "perch"),
            (LinkField.Medium, Plain with { Medium = "social" }, null, "social"),
            (LinkField.Term, Plain with { Term = "moon" }, null, "moon"),
            (LinkField.Content, Plain with { Content = "button" }, null, "button"),
            (LinkField.Redirect, Plain with { Redirect = 301 }, "302", "301"),
            (LinkField.PassQuery, Plain with { Options = Plain.Options with { PassQuery = QueryPassing.LinkWins } }, null, "the link’s own win"),
            (LinkField.Referrer, Plain with { Options = Plain.Options with { Referrer = ReferrerPassing.HideByPage } }, null, "hidden by a page"),
            (LinkField.HideFromSearch, Plain with { Options = Plain.Options with { HideFromSearch = true } }, null, "yes"),
            (LinkField.Nofollow, Plain with { Options = Plain.Options with { Nofollow = true } }, null, "yes"),
            (LinkField.Sponsored, Plain with { Options = Plain.Options with { Sponsored = true } }, null, "yes"),
            (LinkField.NewTab, Plain with { Options = Plain.Options with { NewTab = true } }, null, "yes"),
            (LinkField.TitleAttribute, Plain with { Options = Plain.Options with { TitleAttribute = "The moon" } }, null, "The moon"),
            (LinkField.AnchorText, Plain with { Options = Plain.Options with { AnchorText = "moon" } }, null, "moon"),
            (LinkField.HandoffDeadline, Plain with { Options = Plain.Options with { HandoffDeadline = 400 } }, null, "400 ms"),
            (LinkField.EndedText, Plain with { Options = Plain.Options with { EndedText = "See you in spring." } }, null, "See you in spring."),
            (
                LinkField.Route,
                Plain with
                {
                    Route = RouteText.Of(
                        new Route
                        {
                            Rules = [new(new() { Devices = [RouteDevice.Phone] }, new() { Pages = [new("https://northmoor.example/app", 100, [])] })],
                        }
                    ),
                },
                null,
                "on a phone: northmoor.example/app"
            ),
            (LinkField.SavedRoute, Plain with { RouteId = Things[7].Id }, null, "Shop by country"),
            (LinkField.Note, Plain with { Note = "For the shop" }, null, "For the shop"),
            (LinkField.Folder, Plain with { FolderId = Things[2].Id }, null, "Shop"),
            (LinkField.Tags, Plain with { TagIds = [Things[4].Id, Things[3].Id] }, null, "event, members"),
            (LinkField.Pixels, Plain with { PixelIds = [Things[5].Id] }, null, "Fairlead"),
            (LinkField.ImportedClicks, Plain with { ImportedClicks = 1204 }, null, "1,204"),
            (LinkField.Archived, Plain with { IsArchived = true }, null, "yes"),
            (LinkField.Deleted, Plain with { IsDeleted = true }, null, "yes"),
        };
        changes.Select(c => c.Field).ShouldBe(Enum.GetValues<LinkField>());
        foreach (var (field, after, from, to) in changes)
        {
            LinkDifference.Between(Plain, after, NameOf, London).ShouldBe([new LinkDifference(field, from, to)]);
            LinkDifference.Between(after, Plain, NameOf, London).ShouldBe([new LinkDifference(field, to, from)]);
        }
    }

    [Fact]
    public void A_state_comes_back_from_where_it_is_stored_as_it_was()
    {
        var full = Plain with
        {
            Source = "perch",
            CampaignId = Things[1].Id,
            TagIds = [Things[3].Id],
            PixelIds = [Things[5].Id],
            IsArchived = true,
            OpensAt = Instant.FromUtc(2026, 7, 1, 8, 0),
            EndsAt = Instant.FromUtc(2026, 12, 1, 0, 0),
            Note = "ü “quoted”",
            Options = new LinkOptions
            {
                PassQuery = QueryPassing.VisitorWins,
                HandoffDeadline = 0,
                AnchorText = "moon",
            },
        };
        var back = LinkState.FromJson(full.ToJson());
        back.ToJson().ShouldBe(full.ToJson());
        LinkDifference.Between(full, back, NameOf, London).ShouldBeEmpty();
        typeof(LinkState).GetProperties(BindingFlags.Public | BindingFlags.Instance).ShouldAllBe(p => full.ToJson().Contains($"\"{StoredName(p)}\""));
        (full with { ImportedClicks = 7 }).ToJson().ShouldContain("\"broughtAlong\":7", Case.Sensitive, "stored versions and archives call it so");
    }

    private static string StoredName(PropertyInfo property) =>
        property.GetCustomAttribute<JsonPropertyNameAttribute>()?.Name ?? $"{char.ToLowerInvariant(property.Name[0])}{property.Name.Substring(1)}";

    private static string NameOf(Guid id) => Things.Single(t => t.Id == id).Name;
}

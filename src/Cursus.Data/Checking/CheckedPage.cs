using Cursus.Core.Checking;
using NodaTime;

namespace Cursus.Data.Checking;

/// <summary>A page that links of a workspace lead to, and what the link check knows of it. Written by a trigger as soon as a link leads there; taken
/// away when none does any more.</summary>
public sealed class CheckedPage
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>The same as <see cref="Links.Link.PageKey"/> of the links that lead here.</summary>
    public Guid Key { get; init; }

    /// <summary>The destination as entered, without its fragment.</summary>
    public required string Address { get; init; }

    /// <summary>Host and port as written, by which pages of one site are told.</summary>
    public string Site { get; private init; } = "";

    public PageVerdict Verdict { get; private set; }

    /// <summary>Whether a person should look at it.</summary>
    public bool NeedsCare { get; private set; }

    public PageTrouble Trouble { get; private set; }
    public int? Status { get; private set; }
    public Instant? Since { get; private set; }
    public Instant? CheckedAt { get; private set; }
    public Instant? NextCheckAt { get; set; }
    public int Tries { get; private set; }
    public Instant? TroubleSince { get; private set; }
    public string? LeadsTo { get; private set; }
    public bool IsPermanent { get; private set; }
    public bool EndsAtFrontPage { get; private set; }
    public string? Title { get; private set; }
    public string[] Words { get; private set; } = [];
    public string[] LoudWords { get; private set; } = [];
    public string? AcceptedTitle { get; private set; }
    public string[]? AcceptedWords { get; private set; }
    public string? AcceptedLeadsTo { get; private set; }
    public string? Validator { get; set; }

    /// <summary>Until when it is ignored, and visitors go to it whatever it answers.</summary>
    public Instant? IgnoredUntil { get; set; }

    /// <summary>What is known of it.</summary>
    public PageState State
    {
        get =>
            new()
            {
                Verdict = Verdict,
                Trouble = Trouble,
                Status = Status,
                Since = Since,
                CheckedAt = CheckedAt,
                NextCheckAt = NextCheckAt,
                Tries = Tries,
                TroubleSince = TroubleSince,
                LeadsTo = LeadsTo,
                IsPermanent = IsPermanent,
                EndsAtFrontPage = EndsAtFrontPage,
                Title = Title,
                Words = Words,
                LoudWords = LoudWords,
                Accepted = AcceptedWords is null ? null : new PageLikeness(AcceptedTitle, AcceptedWords, AcceptedLeadsTo),
                Validator = Validator,
            };
        set
        {
            (Verdict, NeedsCare, Trouble, Status, Since) = (value.Verdict, value.NeedsCare, value.Trouble, value.Status, value.Since);
            (CheckedAt, NextCheckAt, Tries, TroubleSince) = (value.CheckedAt, value.NextCheckAt, value.Tries, value.TroubleSince);
            (LeadsTo, IsPermanent, EndsAtFrontPage, Title, Validator) = (
                value.LeadsTo,
                value.IsPermanent,
                value.EndsAtFrontPage,
                value.Title,
                value.Validator
            );
            (Words, LoudWords) = ([.. value.Words], [.. value.LoudWords]);
            (AcceptedTitle, AcceptedLeadsTo) = (value.Accepted?.Title, value.Accepted?.LeadsTo);
            AcceptedWords = value.Accepted is { } accepted ? [.. accepted.Words] : null;
        }
    }
}

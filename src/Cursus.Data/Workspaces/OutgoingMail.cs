using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>What an e-mail to a person is about.</summary>
public enum MailKind : byte
{
    Invitation = 1,
    PasswordReset = 2,
    PasswordChanged = 3,
    NewSignIn = 4,
    ConfirmOldEmail = 5,
    ConfirmNewEmail = 6,
    EmailChanged = 7,
    TwoStepChanged = 8,
}

/// <summary>An e-mail that is to be sent, saved together with what it tells of. It is written when it goes out, so that no link with a secret in it
/// lies in the database.</summary>
public sealed class OutgoingMail
{
    /// <summary>For how long sending is tried again, and how long it is remembered that it was sent.</summary>
    public static readonly Duration Life = Duration.FromDays(1);

    public Guid Id { get; init; } = Guid.CreateVersion7();
    public MailKind Kind { get; init; }

    /// <summary>The address; for a forgotten password as Identity compares addresses, whether or not there is such an account.</summary>
    public required string Recipient { get; init; }

    /// <summary>The invitation, account or change of address that it is about.</summary>
    public Guid? About { get; init; }

    /// <summary>Where a sign-in was, or what was changed, in words: whoever signs out at once must not take the e-mail about it away.</summary>
    public string? Detail { get; init; }

    public Instant CreatedAt { get; init; }
    public Instant NextTryAt { get; set; }
    public short Tries { get; set; }

    /// <summary>When the mail server took it, or there turned out to be nothing to send.</summary>
    public Instant? SentAt { get; set; }

    /// <summary>What the mail server said last; null where it took it, or wasn't asked.</summary>
    public string? Failure { get; set; }
}

using Cursus.Core;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Cursus.Data.Workspaces;

internal sealed class WorkspacesModel
    : IEntityTypeConfiguration<Workspace>,
        IEntityTypeConfiguration<Account>,
        IEntityTypeConfiguration<Member>,
        IEntityTypeConfiguration<ApiToken>,
        IEntityTypeConfiguration<IdempotentAnswer>,
        IEntityTypeConfiguration<SignIn>,
        IEntityTypeConfiguration<Invitation>,
        IEntityTypeConfiguration<EmailChange>,
        IEntityTypeConfiguration<OutgoingMail>,
        IEntityTypeConfiguration<UsedCode>,
        IEntityTypeConfiguration<AuditEntry>,
        IEntityTypeConfiguration<IdentityUserClaim<Guid>>,
        IEntityTypeConfiguration<IdentityUserLogin<Guid>>,
        IEntityTypeConfiguration<IdentityUserToken<Guid>>,
        IEntityTypeConfiguration<IdentityUserPasskey<Guid>>
{
    public void Configure(EntityTypeBuilder<Workspace> workspace)
    {
        workspace.Property(w => w.WeekStart).HasConversion<short>();
        workspace.Property(w => w.NumberLanguage).HasMaxLength(NumberLanguage.MaxLength);
        workspace.ComplexProperty(w => w.Options);
        workspace.HasIndex(w => w.Key).IsUnique();
    }

    public void Configure(EntityTypeBuilder<Account> account)
    {
        account.ToTable("accounts");
        account.Property(a => a.NumberLanguage).HasMaxLength(NumberLanguage.MaxLength);
        account.HasIndex(a => a.NormalizedEmail).HasDatabaseName("ix_accounts_normalized_email").IsUnique();
        account.HasIndex(a => a.NormalizedUserName).HasDatabaseName("ix_accounts_normalized_user_name").IsUnique();
    }

    public void Configure(EntityTypeBuilder<IdentityUserClaim<Guid>> claim) => claim.ToTable("account_claims");

    public void Configure(EntityTypeBuilder<IdentityUserLogin<Guid>> login) => login.ToTable("account_logins");

    public void Configure(EntityTypeBuilder<IdentityUserToken<Guid>> token) => token.ToTable("account_tokens");

    public void Configure(EntityTypeBuilder<IdentityUserPasskey<Guid>> passkey)
    {
        passkey.ToTable("account_passkeys").HasKey(p => p.CredentialId);
        passkey.HasOne<Account>().WithMany().HasForeignKey(p => p.UserId);
        passkey.OwnsOne(p => p.Data).ToJson();
    }

    public void Configure(EntityTypeBuilder<UsedCode> code)
    {
        code.HasKey(c => new { c.AccountId, c.Code });
        code.HasOne<Account>().WithMany().HasForeignKey(c => c.AccountId);
    }

    public void Configure(EntityTypeBuilder<Member> member)
    {
        member.HasIndex(m => new { m.WorkspaceId, m.AccountId }).IsUnique();
        member.HasOne(m => m.Workspace).WithMany().HasForeignKey(m => m.WorkspaceId);
        member.HasOne(m => m.Account).WithMany().HasForeignKey(m => m.AccountId);
        // Whoever has left is nobody's member; only where names are asked for what was done before are they found (IgnoreQueryFilters).
        member.HasQueryFilter(m => m.LeftAt == null);
    }

    public void Configure(EntityTypeBuilder<Invitation> invitation)
    {
        invitation.HasIndex(i => new { i.WorkspaceId, i.NormalizedEmail }).IsUnique();
        invitation.HasOne(i => i.Workspace).WithMany().HasForeignKey(i => i.WorkspaceId);
    }

    public void Configure(EntityTypeBuilder<EmailChange> change)
    {
        change.HasKey(c => c.AccountId);
        change.HasOne<Account>().WithOne().HasForeignKey<EmailChange>(c => c.AccountId);
    }

    public void Configure(EntityTypeBuilder<OutgoingMail> mail) => mail.HasIndex(m => m.NextTryAt).HasFilter("sent_at is null");

    public void Configure(EntityTypeBuilder<AuditEntry> entry)
    {
        entry.HasOne<Workspace>().WithMany().HasForeignKey(e => e.WorkspaceId);
        entry.HasIndex(e => new { e.WorkspaceId, e.At });
    }

    public void Configure(EntityTypeBuilder<ApiToken> token)
    {
        token.HasIndex(t => t.Hash).IsUnique();
        token.HasOne(t => t.Member).WithMany().HasForeignKey(t => t.MemberId);
    }

    public void Configure(EntityTypeBuilder<SignIn> signIn)
    {
        signIn.HasOne<Account>().WithMany().HasForeignKey(s => s.AccountId);
        signIn.HasIndex(s => s.LastUsedAt);
    }

    public void Configure(EntityTypeBuilder<IdempotentAnswer> answer)
    {
        answer.HasKey(a => new { a.MemberId, a.Key });
        answer.HasOne<Member>().WithMany().HasForeignKey(a => a.MemberId);
        answer.HasIndex(a => a.CreatedAt);
    }
}

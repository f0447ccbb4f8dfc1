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
        IEntityTypeConfiguration<IdentityUserClaim<Guid>>,
        IEntityTypeConfiguration<IdentityUserLogin<Guid>>,
        IEntityTypeConfiguration<IdentityUserToken<Guid>>
{
    public void Configure(EntityTypeBuilder<Workspace> workspace)
    {
        workspace.Property(w => w.WeekStart).HasConversion<short>();
        workspace.Property(w => w.NumberLanguage).HasMaxLength(NumberLanguage.MaxLength);
        workspace.ComplexProperty(w => w.Options);
    }

    public void Configure(EntityTypeBuilder<Account> account)
    {
        account.ToTable("accounts");
        account.HasIndex(a => a.NormalizedEmail).HasDatabaseName("ix_accounts_normalized_email").IsUnique();
        account.HasIndex(a => a.NormalizedUserName).HasDatabaseName("ix_accounts_normalized_user_name").IsUnique();
    }

    public void Configure(EntityTypeBuilder<IdentityUserClaim<Guid>> claim) => claim.ToTable("account_claims");

    public void Configure(EntityTypeBuilder<IdentityUserLogin<Guid>> login) => login.ToTable("account_logins");

    public void Configure(EntityTypeBuilder<IdentityUserToken<Guid>> token) => token.ToTable("account_tokens");

    public void Configure(EntityTypeBuilder<Member> member)
    {
        member.HasIndex(m => new { m.WorkspaceId, m.AccountId }).IsUnique();
        member.HasOne(m => m.Workspace).WithMany().HasForeignKey(m => m.WorkspaceId);
        member.HasOne(m => m.Account).WithMany().HasForeignKey(m => m.AccountId);
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

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Two-step sign-in: authenticator apps, passkeys, and whom a workspace asks for it.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261202000000_TwoStep")]
internal sealed class TwoStep : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table accounts add column has_authenticator boolean not null default false;
            alter table workspaces add column two_step_of smallint not null default 0;
            create table account_passkeys (
                credential_id bytea not null constraint pk_account_passkeys primary key,
                user_id uuid not null constraint fk_account_passkeys_accounts_user_id references accounts (id) on delete cascade,
                data jsonb not null
            );
            create index ix_account_passkeys_user_id on account_passkeys (user_id);
            create table used_codes (
                account_id uuid not null constraint fk_used_codes_accounts_account_id references accounts (id) on delete cascade,
                code text not null,
                used_at timestamptz not null,
                constraint pk_used_codes primary key (account_id, code)
            );
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            drop table used_codes;
            drop table account_passkeys;
            alter table workspaces drop column two_step_of;
            alter table accounts drop column has_authenticator;
            """
        );
}

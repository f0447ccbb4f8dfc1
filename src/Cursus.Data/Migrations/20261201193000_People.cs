using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Invitations, changes of address, e-mails to be sent, and the audit log.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201193000_People")]
internal sealed class People : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table accounts add column number_language varchar(8);
            alter table accounts add column start_page smallint not null default 0;
            alter table members add column left_at timestamptz;
            alter table sign_ins add column device text;
            alter table sign_ins add column address text;
            alter table sign_ins add column country text;
            create table invitations (
                id uuid not null,
                workspace_id uuid not null,
                email text not null,
                normalized_email text not null,
                role smallint not null,
                message text,
                invited_by uuid not null,
                created_at timestamptz not null,
                expires_at timestamptz not null,
                version integer not null,
                constraint pk_invitations primary key (id),
                constraint fk_invitations_workspaces_workspace_id foreign key (workspace_id) references workspaces(id) on delete cascade
            );
            create unique index ix_invitations_workspace_id_normalized_email on invitations (workspace_id, normalized_email);
            create table email_changes (
                account_id uuid not null,
                id uuid not null,
                new_email text not null,
                is_confirmed_by_old boolean not null,
                is_confirmed_by_new boolean not null,
                expires_at timestamptz not null,
                constraint pk_email_changes primary key (account_id),
                constraint fk_email_changes_accounts_account_id foreign key (account_id) references accounts(id) on delete cascade
            );
            create table outgoing_mails (
                id uuid not null,
                kind smallint not null,
                recipient text not null,
                about uuid,
                detail text,
                created_at timestamptz not null,
                next_try_at timestamptz not null,
                tries smallint not null,
                sent_at timestamptz,
                failure text,
                constraint pk_outgoing_mails primary key (id)
            );
            create index ix_outgoing_mails_next_try_at on outgoing_mails (next_try_at) where sent_at is null;
            create table audit_entries (
                id uuid not null,
                workspace_id uuid not null,
                at timestamptz not null,
                action smallint not null,
                account_id uuid,
                who text not null,
                token text,
                kind text not null,
                thing text,
                name text,
                detail text,
                constraint pk_audit_entries primary key (id),
                constraint fk_audit_entries_workspaces_workspace_id foreign key (workspace_id) references workspaces(id) on delete cascade
            );
            create index ix_audit_entries_workspace_id_at on audit_entries (workspace_id, at);
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            drop table audit_entries;
            drop table outgoing_mails;
            drop table email_changes;
            drop table invitations;
            alter table sign_ins drop column country;
            alter table sign_ins drop column address;
            alter table sign_ins drop column device;
            alter table members drop column left_at;
            alter table accounts drop column start_page;
            alter table accounts drop column number_language;
            """
        );
}

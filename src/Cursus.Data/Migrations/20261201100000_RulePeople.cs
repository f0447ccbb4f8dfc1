using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Who was among the first people of a rule that lets so many through.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201100000_RulePeople")]
internal sealed class RulePeople : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            create table rule_people (
                number bigint not null generated always as identity,
                link_id uuid not null,
                rule smallint not null,
                visitor bigint not null,
                seen_at timestamptz not null default now(),
                changed_in xid8 not null default pg_current_xact_id(),
                constraint pk_rule_people primary key (link_id, rule, visitor),
                constraint fk_rule_people_links_link_id foreign key (link_id) references links(id) on delete cascade
            );
            create index ix_rule_people_changed_in on rule_people (changed_in);
            create index ix_rule_people_seen_at on rule_people (seen_at) where visitor <> -number;
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("drop table rule_people");
}

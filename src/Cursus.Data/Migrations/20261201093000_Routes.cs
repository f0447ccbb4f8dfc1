using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Routes of links, the pages that they lead to, and which way each click took.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201093000_Routes")]
internal sealed class Routes : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table links add column route text;
            alter table links add column last_rule smallint not null default 0;
            create table routed_pages (
                link_id uuid not null,
                number smallint not null,
                destination text not null,
                is_used boolean not null,
                page_key uuid not null generated always as (md5(split_part(destination, '#', 1))::uuid) stored,
                constraint pk_routed_pages primary key (link_id, number),
                constraint fk_routed_pages_links_link_id foreign key (link_id) references links(id) on delete cascade
            );
            create index ix_routed_pages_page_key on routed_pages (page_key) where is_used;
            alter table clicks add column page smallint not null default 0;
            alter table clicks add column rule smallint not null default 0;
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table clicks drop column rule;
            alter table clicks drop column page;
            drop table routed_pages;
            alter table links drop column last_rule;
            alter table links drop column route;
            """
        );
}

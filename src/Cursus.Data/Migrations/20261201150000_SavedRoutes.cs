using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Routes under a name, which links follow.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201150000_SavedRoutes")]
internal sealed class SavedRoutes : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            create table saved_routes (
                id uuid not null,
                workspace_id uuid not null,
                name text not null,
                route text not null,
                last_rule smallint not null,
                version integer not null,
                changed_at timestamptz not null,
                changed_by uuid,
                constraint pk_saved_routes primary key (id),
                constraint fk_saved_routes_workspaces_workspace_id foreign key (workspace_id) references workspaces(id) on delete cascade
            );
            create unique index ix_saved_routes_workspace_id_name on saved_routes (workspace_id, name);
            create table saved_route_versions (
                route_id uuid not null,
                number integer not null,
                since timestamptz not null,
                until timestamptz not null,
                made_by uuid,
                route text not null,
                constraint pk_saved_route_versions primary key (route_id, number),
                constraint fk_saved_route_versions_saved_routes_route_id foreign key (route_id) references saved_routes(id) on delete cascade
            );
            alter table links add column route_id uuid;
            alter table links add constraint fk_links_saved_routes_route_id foreign key (route_id) references saved_routes(id) on delete set null;
            create index ix_links_route_id on links (route_id) where route_id is not null;
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table links drop column route_id;
            drop table saved_route_versions;
            drop table saved_routes;
            """
        );
}

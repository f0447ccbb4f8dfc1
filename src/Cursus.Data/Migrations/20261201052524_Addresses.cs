using System;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>One table of all short addresses, whatever they lead to. From now on functions and triggers keep it.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201052524_Addresses")]
internal sealed class Addresses : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropIndex(name: "ix_links_domain_id_slug_key", table: "links");

        migrationBuilder.CreateTable(
            name: "addresses",
            columns: table => new
            {
                domain_id = table.Column<Guid>(type: "uuid", nullable: false),
                slug_key = table.Column<string>(type: "character varying(80)", maxLength: 80, nullable: false),
                kind = table.Column<short>(type: "smallint", nullable: false),
                target_id = table.Column<Guid>(type: "uuid", nullable: false),
            },
            constraints: table =>
            {
                table.PrimaryKey("pk_addresses", x => new { x.domain_id, x.slug_key });
            }
        );

        migrationBuilder.CreateIndex(name: "ix_links_domain_id", table: "links", column: "domain_id");

        migrationBuilder.Sql(
            """
            insert into addresses (domain_id, slug_key, kind, target_id)
                select domain_id, slug_key, 0, id from links where slug_freed_at is null
                union all select domain_id, slug_key, 1, link_id from link_aliases;
            """
        );
    }

    protected override void Down(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.DropTable(name: "addresses");

        migrationBuilder.DropIndex(name: "ix_links_domain_id", table: "links");

        migrationBuilder.CreateIndex(
            name: "ix_links_domain_id_slug_key",
            table: "links",
            columns: new[] { "domain_id", "slug_key" },
            unique: true,
            filter: "slug_freed_at is null"
        );
    }
}

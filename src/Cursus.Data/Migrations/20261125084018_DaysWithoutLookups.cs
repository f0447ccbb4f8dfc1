using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Days of links are written thousands at a time: each is not looked up in links any more, and changed rows find room beside the old ones.</summary>
    public partial class DaysWithoutLookups : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "fk_link_days_links_link_id",
                table: "link_days");

            migrationBuilder.Sql("""
                alter table link_days set (fillfactor = 70);

                create function forget_link_days() returns trigger language plpgsql as $$
                begin
                    delete from link_days where link_id in (select id from gone);
                    return null;
                end $$;

                create trigger forget_link_days after delete on links referencing old table as gone for each statement execute function forget_link_days();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                drop trigger forget_link_days on links;
                drop function forget_link_days();
                alter table link_days reset (fillfactor);
                delete from link_days d where not exists (select from links l where l.id = d.link_id);
                """);
            migrationBuilder.AddForeignKey(
                name: "fk_link_days_links_link_id",
                table: "link_days",
                column: "link_id",
                principalTable: "links",
                principalColumn: "id",
                onDelete: ReferentialAction.Cascade);
        }
    }
}

using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class LeftOutByBehaviour : Migration
    {
        private const string Before = "clicks, team, machines, previews, prefetches, repeats, heads, visitors";

        private static readonly string[] Added = ["impostors", "sweeps", "echoes", "probes"];

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(name: "leaves_out_by_behaviour", table: "workspaces", type: "boolean", nullable: false, defaultValue: true);
            foreach (var table in new[] { "open_days", "link_days" })
            {
                foreach (var column in Added)
                {
                    migrationBuilder.AddColumn<int>(name: column, table: table, type: "integer", nullable: false, defaultValue: 0);
                }
            }

            var all = $"{Before}, {string.Join(", ", Added)}";
            migrationBuilder.Sql($"""
                drop view days_of_links;
                create view days_of_links as
                    select link_id, day, {all} from link_days union all select link_id, day, {all} from open_days;
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            // Earlier versions know such clicks as machines'; the next start counts all days anew.
            migrationBuilder.Sql($"""
                update clicks set kind = 2 where kind in (7, 8, 9, 10);
                update user_agents set kind = 2 where kind = 7;
                update user_agents set read_with = '';
                drop view days_of_links;
                create view days_of_links as
                    select link_id, day, {Before} from link_days union all select link_id, day, {Before} from open_days;
                """);
            migrationBuilder.DropColumn(name: "leaves_out_by_behaviour", table: "workspaces");
            foreach (var table in new[] { "open_days", "link_days" })
            {
                foreach (var column in Added)
                {
                    migrationBuilder.DropColumn(name: column, table: table);
                }
            }
        }
    }
}

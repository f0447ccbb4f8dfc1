using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class ChannelsInVersions : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Until now a link kept its channel, so that its former versions have the present one.
            migrationBuilder.Sql("update link_versions v set state = v.state || jsonb_build_object('channelId', l.channel_id) from links l where l.id = v.link_id and not jsonb_exists(v.state, 'channelId')");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("update link_versions set state = state - 'channelId'");
        }
    }
}

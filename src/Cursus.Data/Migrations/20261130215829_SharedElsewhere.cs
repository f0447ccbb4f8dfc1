using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Saved views ask for the dimension by its new name and its groups by theirs.</summary>
    public partial class SharedElsewhere : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                update saved_views set question = regexp_replace(question, '(^|[?&])(by|across)=wandered(?=&|$)', '\1\2=elsewhere', 'g');
                update saved_views set question = regexp_replace(question, '((?:^|[?&])wandered=[^&]*)\mstayed\M', '\1own-channel', 'g');
                update saved_views set question = regexp_replace(question, '((?:^|[?&])wandered=[^&]*)\mwandered\M', '\1elsewhere', 'g');
                update saved_views set question = regexp_replace(question, '(^|[?&])wandered=', '\1elsewhere=', 'g');
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                update saved_views set question = regexp_replace(question, '(^|[?&])(by|across)=elsewhere(?=&|$)', '\1\2=wandered', 'g');
                update saved_views set question = regexp_replace(question, '((?:^|[?&])elsewhere=[^&]*)\mown-channel\M', '\1stayed', 'g');
                update saved_views set question = regexp_replace(question, '((?:^|[?&])elsewhere=[^&]*)\melsewhere\M', '\1wandered', 'g');
                update saved_views set question = regexp_replace(question, '(^|[?&])elsewhere=', '\1wandered=', 'g');
                """);
        }
    }
}

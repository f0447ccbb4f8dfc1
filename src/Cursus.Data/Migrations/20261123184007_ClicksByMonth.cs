using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Raw clicks, one partition for each month of UTC, made when the first click of a month is stored.</summary>
    public partial class ClicksByMonth : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                create table clicks (
                    id bigint not null,
                    at timestamptz not null,
                    link_id uuid not null,
                    visitor bigint not null,
                    kind smallint not null,
                    language text not null,
                    referrer_host text not null,
                    user_agent text not null,
                    primary key (at, id)
                ) partition by range (at);

                create index ix_clicks_link_id_at on clicks (link_id, at);

                create function ensure_clicks_partition(month timestamptz) returns void language plpgsql as $$
                declare
                    name text := 'clicks_' || to_char(month at time zone 'UTC', 'YYYY_MM');
                begin
                    if to_regclass(name) is null then
                        -- Two shippers may meet a new month at the same moment; the second waits and finds the partition made.
                        perform pg_advisory_xact_lock(hashtext('clicks_partitions'));
                        execute format('create table if not exists %I partition of clicks for values from (%L) to (%L)',
                            name, month, (month at time zone 'UTC' + interval '1 month') at time zone 'UTC');
                    end if;
                end $$;
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                drop function ensure_clicks_partition(timestamptz);
                drop table clicks;
                """);
        }
    }
}

using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Cursus.Data.Migrations;

/// <summary>Days and months count which way their clicks took. All clicks so far went to their links' own destinations; months are packed as
/// <see cref="Core.Clicks.Tallies.MonthTally"/> packs them.</summary>
[DbContext(typeof(CursusDb))]
[Migration("20261201123000_Ways")]
internal sealed class Ways : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table open_days add column way_values text[], add column way_counts int[];
            update open_days set
                way_values = case when clicks = 0 then '{}' else array[''] end,
                way_counts = case when clicks = 0 then '{}'::int[] else array[clicks] end;
            alter table open_days alter column way_values set not null, alter column way_counts set not null;

            create function pg_temp.packed(number int) returns bytea language sql immutable as $$
                select string_agg(set_byte('\x00', 0, ((number >> (7 * place)) & 127) | case when number >> (7 * (place + 1)) > 0 then 128 else 0 end), '' order by place)
                from generate_series(0, 4) as place where place = 0 or number >> (7 * place) > 0
            $$;
            alter table link_months add column way bytea;
            update link_months m set way = coalesce((
                select '\x0100'::bytea || pg_temp.packed(sum(d.clicks)::int)
                    || string_agg(pg_temp.packed(extract(day from d.day)::int) || '\x0100'::bytea || pg_temp.packed(d.clicks), '' order by d.day)
                from link_days d
                where d.link_id = m.link_id and d.day >= m.month and d.day < m.month + interval '1 month' and d.clicks > 0), '');
            alter table link_months alter column way set not null;
            drop function pg_temp.packed;
            """
        );

    protected override void Down(MigrationBuilder migrationBuilder) =>
        migrationBuilder.Sql(
            """
            alter table link_months drop column way;
            alter table open_days drop column way_values, drop column way_counts;
            """
        );
}

using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <inheritdoc />
    public partial class SealedDays : Migration
    {
        private const string Kinds = "clicks, team, machines, previews, prefetches, repeats, heads, visitors";

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // All days that there are stay open until the application seals those that are over. Months are kept whole up to a page, since what is kept elsewhere is looked up for each row.
            // Of a link's clicks hardly any question asks for a part of a month, so that the index needs no time: without it, equal entries share their room.
            migrationBuilder.Sql($"""
                alter table link_days rename to open_days;
                alter table open_days rename constraint pk_link_days to pk_open_days;
                drop index ix_link_days_day;
                create table link_days (
                    link_id uuid not null,
                    day date not null,
                    clicks integer not null,
                    team integer not null,
                    machines integer not null,
                    previews integer not null,
                    prefetches integer not null,
                    repeats integer not null,
                    heads integer not null,
                    visitors integer not null,
                    constraint pk_link_days primary key (link_id, day)
                );
                create index ix_link_days_day on link_days (day);
                create view days_of_links as
                    select link_id, day, {Kinds} from link_days union all select link_id, day, {Kinds} from open_days;
                drop table link_months;
                drop table sealed_months;
                create table link_months (
                    link_id uuid not null,
                    month date not null,
                    kinds bytea not null,
                    hours bytea not null,
                    country bytea not null,
                    device bytea not null,
                    browser bytea not null,
                    os bytea not null,
                    language bytea not null,
                    referrer bytea not null,
                    code bytea not null,
                    constraint pk_link_months primary key (link_id, month)
                ) with (toast_tuple_target = 8128);
                create index ix_link_months_month on link_months (month);
                create table sealed_days (
                    until date not null constraint pk_sealed_days primary key
                );
                create or replace function forget_link_days() returns trigger language plpgsql as $$
                begin
                    delete from open_days where link_id in (select id from gone);
                    delete from link_days where link_id in (select id from gone);
                    delete from link_months where link_id in (select id from gone);
                    return null;
                end $$;
                drop index ix_clicks_link_id_at;
                create index ix_clicks_link_id on clicks (link_id);
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            // What days told stands in months that nobody could read any more: the next start counts them anew, as after a change of the lists.
            migrationBuilder.Sql("""
                drop view days_of_links;
                drop table link_days;
                drop table link_months;
                drop table sealed_days;
                update user_agents set read_with = '';
                alter table open_days rename to link_days;
                alter table link_days rename constraint pk_open_days to pk_link_days;
                create index ix_link_days_day on link_days (day);
                create table link_months (
                    link_id uuid not null,
                    month date not null,
                    clicks integer not null,
                    team integer not null,
                    machines integer not null,
                    previews integer not null,
                    prefetches integer not null,
                    repeats integer not null,
                    heads integer not null,
                    visitors integer not null,
                    week_hours integer[] not null,
                    country_values text[] not null,
                    country_counts integer[] not null,
                    device_values text[] not null,
                    device_counts integer[] not null,
                    browser_values text[] not null,
                    browser_counts integer[] not null,
                    os_values text[] not null,
                    os_counts integer[] not null,
                    language_values text[] not null,
                    language_counts integer[] not null,
                    referrer_values text[] not null,
                    referrer_counts integer[] not null,
                    code_values text[] not null,
                    code_counts integer[] not null,
                    constraint pk_link_months primary key (link_id, month)
                );
                alter table link_months alter column week_hours set storage plain;
                create index ix_link_months_month on link_months (month);
                create table sealed_months (
                    month date not null constraint pk_sealed_months primary key
                );
                create or replace function forget_link_days() returns trigger language plpgsql as $$
                begin
                    delete from link_days where link_id in (select id from gone);
                    delete from link_months where link_id in (select id from gone);
                    return null;
                end $$;
                drop index ix_clicks_link_id;
                create index ix_clicks_link_id_at on clicks (link_id, at);
                """);
        }
    }
}

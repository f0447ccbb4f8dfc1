using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Cursus.Data.Migrations
{
    /// <summary>Where Quartz.NET keeps its jobs, so that each runs in one process at a time: the tables of its own schema for PostgreSQL, version 4.7.3.</summary>
    public partial class JobStore : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("""
                create table qrtz_job_details (
                  sched_name text not null,
                  job_name text not null,
                  job_group text not null,
                  description text null,
                  job_class_name text not null,
                  is_durable bool not null,
                  is_nonconcurrent bool not null,
                  is_update_data bool not null,
                  requests_recovery bool not null,
                  job_data bytea null,
                  primary key (sched_name,job_name,job_group)
                );
                create table qrtz_triggers (
                  sched_name text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  job_name text not null,
                  job_group text not null,
                  description text null,
                  next_fire_time bigint null,
                  prev_fire_time bigint null,
                  priority integer null,
                  trigger_state text not null,
                  trigger_type text not null,
                  start_time bigint not null,
                  end_time bigint null,
                  calendar_name text null,
                  misfire_instr smallint null,
                  misfire_orig_fire_time bigint null,
                  execution_group varchar(200) null,
                  preferred_node varchar(200) null,
                  preferred_node_auto bool not null default false,
                  retry_policy varchar(250) null,
                  retry_attempt integer null,
                  continues_trigger_name text null,
                  continues_trigger_group text null,
                  continuation_condition integer null,
                  overlap_policy integer null,
                  pause_reason varchar(250) null,
                  paused_by varchar(200) null,
                  paused_at bigint null,
                  misfire_threshold bigint null,
                  fixed_delay bool null,
                  job_data bytea null,
                  primary key (sched_name,trigger_name,trigger_group),
                  foreign key (sched_name,job_name,job_group) references qrtz_job_details (sched_name,job_name,job_group)
                );
                create table qrtz_simple_triggers (
                  sched_name text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  repeat_count bigint not null,
                  repeat_interval bigint not null,
                  times_triggered bigint not null,
                  primary key (sched_name,trigger_name,trigger_group),
                  foreign key (sched_name,trigger_name,trigger_group) references qrtz_triggers (sched_name,trigger_name,trigger_group) on delete cascade
                );
                create table qrtz_cron_triggers (
                  sched_name text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  cron_expression text not null,
                  time_zone_id text,
                  primary key (sched_name,trigger_name,trigger_group),
                  foreign key (sched_name,trigger_name,trigger_group) references qrtz_triggers (sched_name,trigger_name,trigger_group) on delete cascade
                );
                create table qrtz_simprop_triggers (
                  sched_name text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  str_prop_1 text null,
                  str_prop_2 text null,
                  str_prop_3 text null,
                  int_prop_1 integer null,
                  int_prop_2 integer null,
                  long_prop_1 bigint null,
                  long_prop_2 bigint null,
                  dec_prop_1 numeric null,
                  dec_prop_2 numeric null,
                  bool_prop_1 bool null,
                  bool_prop_2 bool null,
                  time_zone_id text null,
                  primary key (sched_name,trigger_name,trigger_group),
                  foreign key (sched_name,trigger_name,trigger_group) references qrtz_triggers (sched_name,trigger_name,trigger_group) on delete cascade
                );
                create table qrtz_blob_triggers (
                  sched_name text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  blob_data bytea null,
                  primary key (sched_name,trigger_name,trigger_group),
                  foreign key (sched_name,trigger_name,trigger_group) references qrtz_triggers (sched_name,trigger_name,trigger_group) on delete cascade
                );
                create table qrtz_calendars (
                  sched_name text not null,
                  calendar_name text not null,
                  calendar bytea not null,
                  primary key (sched_name,calendar_name)
                );
                create table qrtz_paused_trigger_grps (
                  sched_name text not null,
                  trigger_group text not null,
                  pause_reason varchar(250) null,
                  paused_by varchar(200) null,
                  paused_at bigint null,
                  primary key (sched_name,trigger_group)
                );
                create table qrtz_paused_job_grps (
                  sched_name text not null,
                  job_group text not null,
                  pause_reason varchar(250) null,
                  paused_by varchar(200) null,
                  paused_at bigint null,
                  primary key (sched_name,job_group)
                );
                create table qrtz_fired_triggers (
                  sched_name text not null,
                  entry_id text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  instance_name text not null,
                  fired_time bigint not null,
                  sched_time bigint not null,
                  priority integer not null,
                  state text not null,
                  job_name text null,
                  job_group text null,
                  is_nonconcurrent bool not null,
                  requests_recovery bool null,
                  execution_group varchar(200) null,
                  progress integer null,
                  progress_message varchar(250) null,
                  interrupt_requested_time bigint null,
                  primary key (sched_name,entry_id)
                );
                create table qrtz_scheduler_state (
                  sched_name text not null,
                  instance_name text not null,
                  last_checkin_time bigint not null,
                  checkin_interval bigint not null,
                  quartz_version varchar(20) null,
                  primary key (sched_name,instance_name)
                );
                create table qrtz_locks (
                  sched_name text not null,
                  lock_name text not null,
                  primary key (sched_name,lock_name)
                );
                create table qrtz_execution_history (
                  sched_name text not null,
                  entry_id text not null,
                  instance_name text not null,
                  job_name text not null,
                  job_group text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  fired_time bigint not null,
                  run_time bigint not null,
                  succeeded bool not null,
                  error_message text null,
                  retry_attempt integer not null default 0,
                  retry_scheduled bool not null default false,
                  execution_log text null,
                  result integer null,
                  summary text null,
                  metrics text null,
                  manual bool null,
                  fire_instance_id text null,
                  job_input text null,
                  job_input_too_large bool null,
                  primary key (sched_name,entry_id)
                );
                create table qrtz_misfire_history (
                  sched_name text not null,
                  entry_id text not null,
                  instance_name text not null,
                  trigger_name text not null,
                  trigger_group text not null,
                  job_name text null,
                  job_group text null,
                  misfire_time bigint not null,
                  sched_time bigint null,
                  reason integer null,
                  primary key (sched_name,entry_id)
                );
                create table qrtz_job_status (
                  sched_name text not null,
                  job_group text not null,
                  job_name text not null,
                  first_fired_time bigint not null,
                  last_fired_time bigint not null,
                  last_result integer not null,
                  last_run_time bigint not null,
                  last_instance_name text not null,
                  last_entry_id text null,
                  last_summary text null,
                  last_success_time bigint null,
                  last_failure_time bigint null,
                  last_failure_message text null,
                  consecutive_failures integer not null default 0,
                  run_count bigint not null default 0,
                  failure_count bigint not null default 0,
                  primary key (sched_name,job_group,job_name)
                );
                create index idx_qrtz_j_g_n ON qrtz_job_details (sched_name, job_group, job_name);
                create index idx_qrtz_t_j ON qrtz_triggers (sched_name, job_name, job_group);
                create index idx_qrtz_t_g_n ON qrtz_triggers (sched_name, trigger_group, trigger_name);
                create index idx_qrtz_t_c ON qrtz_triggers (sched_name, calendar_name);
                create index idx_qrtz_t_nft_st ON qrtz_triggers (sched_name, trigger_state, next_fire_time asc, priority desc, misfire_instr);
                create index idx_qrtz_ft_inst_job_req_rcvry ON qrtz_fired_triggers (sched_name, instance_name, requests_recovery);
                create index idx_qrtz_ft_j_g ON qrtz_fired_triggers (sched_name, job_name, job_group);
                create index idx_qrtz_ft_t_g ON qrtz_fired_triggers (sched_name, trigger_name, trigger_group);
                create index idx_qrtz_eh_fired_time ON qrtz_execution_history (sched_name, fired_time);
                create index idx_qrtz_eh_inst ON qrtz_execution_history (sched_name, instance_name);
                create index idx_qrtz_mh_misfire_time ON qrtz_misfire_history (sched_name, misfire_time);
                create index idx_qrtz_mh_inst ON qrtz_misfire_history (sched_name, instance_name);
                create index idx_qrtz_eh_job_time ON qrtz_execution_history (sched_name, job_group, job_name, fired_time);
                create index idx_qrtz_eh_fire_inst ON qrtz_execution_history (sched_name, fire_instance_id);
                create index idx_qrtz_eh_trig_time ON qrtz_execution_history (sched_name, trigger_group, trigger_name, fired_time);
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop table qrtz_job_status, qrtz_misfire_history, qrtz_execution_history, qrtz_locks, qrtz_scheduler_state, qrtz_fired_triggers, qrtz_paused_job_grps, qrtz_paused_trigger_grps, qrtz_calendars, qrtz_blob_triggers, qrtz_simprop_triggers, qrtz_cron_triggers, qrtz_simple_triggers, qrtz_triggers, qrtz_job_details");
        }
    }
}

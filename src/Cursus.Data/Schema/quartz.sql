-- The tables of Quartz.NET, which runs background work, as its own script for PostgreSQL makes them.

create table qrtz_calendars (
    sched_name text not null,
    calendar_name text not null,
    calendar bytea not null,
    constraint qrtz_calendars_pkey primary key (sched_name, calendar_name)
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
    succeeded boolean not null,
    error_message text,
    retry_attempt integer not null default 0,
    retry_scheduled boolean not null default false,
    execution_log text,
    result integer,
    summary text,
    metrics text,
    manual boolean,
    fire_instance_id text,
    job_input text,
    job_input_too_large boolean,
    constraint qrtz_execution_history_pkey primary key (sched_name, entry_id)
);
create index idx_qrtz_eh_fire_inst on qrtz_execution_history (sched_name, fire_instance_id);
create index idx_qrtz_eh_fired_time on qrtz_execution_history (sched_name, fired_time);
create index idx_qrtz_eh_inst on qrtz_execution_history (sched_name, instance_name);
create index idx_qrtz_eh_job_time on qrtz_execution_history (sched_name, job_group, job_name, fired_time);
create index idx_qrtz_eh_trig_time on qrtz_execution_history (sched_name, trigger_group, trigger_name, fired_time);

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
    job_name text,
    job_group text,
    is_nonconcurrent boolean not null,
    requests_recovery boolean,
    execution_group varchar(200),
    progress integer,
    progress_message varchar(250),
    interrupt_requested_time bigint,
    constraint qrtz_fired_triggers_pkey primary key (sched_name, entry_id)
);
create index idx_qrtz_ft_inst_job_req_rcvry on qrtz_fired_triggers (sched_name, instance_name, requests_recovery);
create index idx_qrtz_ft_j_g on qrtz_fired_triggers (sched_name, job_name, job_group);
create index idx_qrtz_ft_t_g on qrtz_fired_triggers (sched_name, trigger_name, trigger_group);

create table qrtz_job_details (
    sched_name text not null,
    job_name text not null,
    job_group text not null,
    description text,
    job_class_name text not null,
    is_durable boolean not null,
    is_nonconcurrent boolean not null,
    is_update_data boolean not null,
    requests_recovery boolean not null,
    job_data bytea,
    constraint qrtz_job_details_pkey primary key (sched_name, job_name, job_group)
);
create index idx_qrtz_j_g_n on qrtz_job_details (sched_name, job_group, job_name);

create table qrtz_job_status (
    sched_name text not null,
    job_group text not null,
    job_name text not null,
    first_fired_time bigint not null,
    last_fired_time bigint not null,
    last_result integer not null,
    last_run_time bigint not null,
    last_instance_name text not null,
    last_entry_id text,
    last_summary text,
    last_success_time bigint,
    last_failure_time bigint,
    last_failure_message text,
    consecutive_failures integer not null default 0,
    run_count bigint not null default 0,
    failure_count bigint not null default 0,
    constraint qrtz_job_status_pkey primary key (sched_name, job_group, job_name)
);

create table qrtz_locks (
    sched_name text not null,
    lock_name text not null,
    constraint qrtz_locks_pkey primary key (sched_name, lock_name)
);

create table qrtz_misfire_history (
    sched_name text not null,
    entry_id text not null,
    instance_name text not null,
    trigger_name text not null,
    trigger_group text not null,
    job_name text,
    job_group text,
    misfire_time bigint not null,
    sched_time bigint,
    reason integer,
    constraint qrtz_misfire_history_pkey primary key (sched_name, entry_id)
);
create index idx_qrtz_mh_inst on qrtz_misfire_history (sched_name, instance_name);
create index idx_qrtz_mh_misfire_time on qrtz_misfire_history (sched_name, misfire_time);

create table qrtz_paused_job_grps (
    sched_name text not null,
    job_group text not null,
    pause_reason varchar(250),
    paused_by varchar(200),
    paused_at bigint,
    constraint qrtz_paused_job_grps_pkey primary key (sched_name, job_group)
);

create table qrtz_paused_trigger_grps (
    sched_name text not null,
    trigger_group text not null,
    pause_reason varchar(250),
    paused_by varchar(200),
    paused_at bigint,
    constraint qrtz_paused_trigger_grps_pkey primary key (sched_name, trigger_group)
);

create table qrtz_scheduler_state (
    sched_name text not null,
    instance_name text not null,
    last_checkin_time bigint not null,
    checkin_interval bigint not null,
    quartz_version varchar(20),
    constraint qrtz_scheduler_state_pkey primary key (sched_name, instance_name)
);

create table qrtz_triggers (
    sched_name text not null,
    trigger_name text not null,
    trigger_group text not null,
    job_name text not null,
    job_group text not null,
    description text,
    next_fire_time bigint,
    prev_fire_time bigint,
    priority integer,
    trigger_state text not null,
    trigger_type text not null,
    start_time bigint not null,
    end_time bigint,
    calendar_name text,
    misfire_instr smallint,
    misfire_orig_fire_time bigint,
    execution_group varchar(200),
    preferred_node varchar(200),
    preferred_node_auto boolean not null default false,
    retry_policy varchar(250),
    retry_attempt integer,
    continues_trigger_name text,
    continues_trigger_group text,
    continuation_condition integer,
    overlap_policy integer,
    pause_reason varchar(250),
    paused_by varchar(200),
    paused_at bigint,
    misfire_threshold bigint,
    fixed_delay boolean,
    job_data bytea,
    constraint qrtz_triggers_pkey primary key (sched_name, trigger_name, trigger_group),
    constraint qrtz_triggers_sched_name_job_name_job_group_fkey foreign key (sched_name, job_name, job_group) references qrtz_job_details(sched_name, job_name, job_group)
);
create index idx_qrtz_t_c on qrtz_triggers (sched_name, calendar_name);
create index idx_qrtz_t_g_n on qrtz_triggers (sched_name, trigger_group, trigger_name);
create index idx_qrtz_t_j on qrtz_triggers (sched_name, job_name, job_group);
create index idx_qrtz_t_nft_st on qrtz_triggers (sched_name, trigger_state, next_fire_time, priority desc, misfire_instr);

create table qrtz_blob_triggers (
    sched_name text not null,
    trigger_name text not null,
    trigger_group text not null,
    blob_data bytea,
    constraint qrtz_blob_triggers_pkey primary key (sched_name, trigger_name, trigger_group),
    constraint qrtz_blob_triggers_sched_name_trigger_name_trigger_group_fkey foreign key (sched_name, trigger_name, trigger_group) references qrtz_triggers(sched_name, trigger_name, trigger_group) on delete cascade
);

create table qrtz_cron_triggers (
    sched_name text not null,
    trigger_name text not null,
    trigger_group text not null,
    cron_expression text not null,
    time_zone_id text,
    constraint qrtz_cron_triggers_pkey primary key (sched_name, trigger_name, trigger_group),
    constraint qrtz_cron_triggers_sched_name_trigger_name_trigger_group_fkey foreign key (sched_name, trigger_name, trigger_group) references qrtz_triggers(sched_name, trigger_name, trigger_group) on delete cascade
);

create table qrtz_simple_triggers (
    sched_name text not null,
    trigger_name text not null,
    trigger_group text not null,
    repeat_count bigint not null,
    repeat_interval bigint not null,
    times_triggered bigint not null,
    constraint qrtz_simple_triggers_pkey primary key (sched_name, trigger_name, trigger_group),
    constraint qrtz_simple_triggers_sched_name_trigger_name_trigger_group_fkey foreign key (sched_name, trigger_name, trigger_group) references qrtz_triggers(sched_name, trigger_name, trigger_group) on delete cascade
);

create table qrtz_simprop_triggers (
    sched_name text not null,
    trigger_name text not null,
    trigger_group text not null,
    str_prop_1 text,
    str_prop_2 text,
    str_prop_3 text,
    int_prop_1 integer,
    int_prop_2 integer,
    long_prop_1 bigint,
    long_prop_2 bigint,
    dec_prop_1 numeric,
    dec_prop_2 numeric,
    bool_prop_1 boolean,
    bool_prop_2 boolean,
    time_zone_id text,
    constraint qrtz_simprop_triggers_pkey primary key (sched_name, trigger_name, trigger_group),
    constraint qrtz_simprop_triggers_sched_name_trigger_name_trigger_grou_fkey foreign key (sched_name, trigger_name, trigger_group) references qrtz_triggers(sched_name, trigger_name, trigger_group) on delete cascade
);

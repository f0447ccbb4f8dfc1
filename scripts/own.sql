-- Gives everything in a database's schemas to one role, but what belongs to an extension.
select format('alter schema %I owner to %I', nspname, :'role') from pg_namespace where nspname !~ '^pg_' and nspname <> 'information_schema' \gexec

select format('alter %s %I.%I owner to %I', case c.relkind when 'S' then 'sequence' when 'v' then 'view' when 'm' then 'materialized view' else 'table' end, n.nspname, c.relname, :'role')
from pg_class c join pg_namespace n on n.oid = c.relnamespace
where n.nspname !~ '^pg_' and n.nspname <> 'information_schema' and c.relkind in ('r', 'p', 'v', 'm', 'S')
    and not exists (select from pg_depend d where d.objid = c.oid and d.classid = 'pg_class'::regclass and (d.deptype = 'e' or (c.relkind = 'S' and d.deptype in ('a', 'i')))) \gexec

select format('alter routine %s owner to %I', p.oid::regprocedure, :'role')
from pg_proc p join pg_namespace n on n.oid = p.pronamespace
where n.nspname !~ '^pg_' and n.nspname <> 'information_schema' and not exists (select from pg_depend d where d.objid = p.oid and d.classid = 'pg_proc'::regclass and d.deptype = 'e') \gexec

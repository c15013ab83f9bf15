-- +goose Up
-- Jobs are listed by name and by the day of their work too; those without a day come last.
alter table job add column work_on text not null default '';
update job j set work_on = coalesce(r.document ->> 'work_on', '') from revision r where r.job_id = j.id and r.number = j.head;
create index job_by_name on job (lower(name), id) where deleted_at is null;
create index job_by_day on job (coalesce(nullif(work_on, ''), '~'), id) where deleted_at is null;

-- +goose Down
drop index job_by_day;
drop index job_by_name;
alter table job drop column work_on;

-- What the list of jobs shows stands beside the job, so that a page of the list reads no
-- documents; names are found by any part of them.
-- +goose Up
create extension if not exists pg_trgm;

alter table job
  add column name text not null default '',
  add column species text not null default '',
  add column saved_at timestamptz not null default now();

update job j set saved_at = r.saved_at, name = coalesce(r.document ->> 'name', ''),
  species = coalesce(r.document #>> '{trees,0,wood,species}', r.document #>> '{tree,wood,species}', '')
from revision r where r.job_id = j.id and r.number = j.head;

drop index job_kept;
create index job_listed on job (saved_at desc, id desc) where deleted_at is null;
create index job_binned on job (deleted_at desc, id desc) where deleted_at is not null;
create index job_named on job using gin (name gin_trgm_ops);
create index item_listed on item (kind, name, id) where deleted_at is null;

-- +goose Down
drop index item_listed;
drop index job_named;
drop index job_binned;
drop index job_listed;
create index job_kept on job (created_at) where deleted_at is null;
alter table job drop column saved_at, drop column species, drop column name;

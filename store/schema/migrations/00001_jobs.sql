-- +goose Up
create table job (
  id uuid primary key default gen_random_uuid(),
  created_at timestamptz not null default now(),
  deleted_at timestamptz,
  head integer not null check (head >= 1)
);

-- Every save of a job, whole and for good.
create table revision (
  job_id uuid not null references job (id),
  number integer not null check (number >= 1),
  based_on integer check (based_on < number),
  saved_at timestamptz not null default now(),
  author text not null default '',
  note text not null default '',
  save_key uuid not null,
  document jsonb not null check (jsonb_typeof(document) = 'object'),
  primary key (job_id, number),
  unique (job_id, save_key)
);

alter table job
  add constraint job_head_is_a_revision
  foreign key (id, head) references revision (job_id, number)
  deferrable initially deferred;

create index job_kept on job (created_at) where deleted_at is null;

-- +goose StatementBegin
create function revision_is_immutable() returns trigger language plpgsql as $$
begin
  raise exception 'revision % of job % is immutable', old.number, old.job_id
    using errcode = 'restrict_violation';
end
$$;
-- +goose StatementEnd

create trigger revision_is_immutable
  before update or delete on revision
  for each row execute function revision_is_immutable();

-- +goose Down
drop table revision cascade;
drop table job cascade;
drop function revision_is_immutable;

-- The crew's gear, its inspections, and its rules.
-- +goose Up
create table item (
  id text primary key check (length(id) between 1 and 40),
  kind text not null check (kind in ('rope', 'block', 'sling', 'device', 'connector', 'pulley', 'winch', 'crane')),
  name text not null check (length(name) between 1 and 80),
  serial text not null default '',
  marked_kn double precision check (marked_kn > 0),
  breaking_kn double precision check (breaking_kn > 0),
  diameter_m double precision check (diameter_m > 0),
  length_m double precision check (length_m > 0),
  dynamic_factor double precision check (dynamic_factor >= 1),
  efficiency double precision check (efficiency > 0 and efficiency <= 1),
  bend_m double precision check (bend_m > 0),
  friction double precision check (friction > 0),
  rigging_kg double precision check (rigging_kg >= 0),
  conditions text[] not null default '{}',
  in_service date,
  set_aside_on date,
  set_aside_why text,
  retired boolean not null default false,
  note text not null default '',
  revision integer not null default 1 check (revision >= 1),
  changed_at timestamptz not null default now(),
  deleted_at timestamptz,
  check ((set_aside_on is null) = (set_aside_why is null)),
  check (not retired or set_aside_on is not null)
);

create table item_stretch (
  item_id text not null references item (id) on delete cascade,
  load_pct double precision not null check (load_pct > 0),
  strain_pct double precision not null check (strain_pct > 0),
  primary key (item_id, load_pct)
);

create table item_lift (
  item_id text not null references item (id) on delete cascade,
  boom_m double precision not null check (boom_m > 0),
  radius_m double precision not null check (radius_m > 0),
  capacity_kg double precision not null check (capacity_kg > 0),
  primary key (item_id, boom_m, radius_m)
);

create table inspection (
  item_id text not null references item (id) on delete cascade,
  on_day date not null,
  by_whom text not null check (by_whom <> ''),
  result text not null check (result in ('pass', 'watch', 'fail')),
  next_due date check (next_due >= on_day),
  note text not null default '',
  primary key (item_id, on_day, by_whom)
);

-- Every save of the crew's rules, whole and for good.
create table policy (
  number integer primary key check (number >= 1),
  saved_at timestamptz not null default now(),
  document jsonb not null check (jsonb_typeof(document) = 'object')
);

-- One row: counts every change of gear and rules together.
create table crew (
  only_one boolean primary key default true check (only_one),
  revision integer not null
);
insert into crew (revision) values (0);

-- +goose StatementBegin
create function crew_moved() returns trigger language plpgsql as $$
begin
  perform pg_notify('crew_moved', new.revision::text);
  return null;
end
$$;
-- +goose StatementEnd

create trigger crew_moved after update on crew for each row execute function crew_moved();

-- A paper that was handed out: of which revision of the job, by which rules and gear.
create table briefing (
  id uuid primary key,
  job_id uuid not null references job (id),
  revision integer not null,
  made_at timestamptz not null default now(),
  crew jsonb not null check (jsonb_typeof(crew) = 'object'),
  foreign key (job_id, revision) references revision (job_id, number)
);
create index briefing_of_job on briefing (job_id, made_at desc);

create table photo (
  id uuid primary key,
  job_id uuid not null references job (id),
  taken_at timestamptz not null default now(),
  about text not null default '',
  note text not null default '',
  media_type text not null check (media_type in ('image/jpeg', 'image/png')),
  width integer not null check (width > 0),
  height integer not null check (height > 0),
  picture bytea not null check (length(picture) <= 8000000),
  deleted_at timestamptz
);
create index photo_of_job on photo (job_id, taken_at) where deleted_at is null;

-- +goose Down
drop table photo;
drop table briefing;
drop table crew;
drop function crew_moved();
drop table policy;
drop table inspection;
drop table item_lift;
drop table item_stretch;
drop table item;

-- name: CrewRevision :one
select revision from crew;

-- name: LockCrew :one
select revision from crew for update;

-- name: MoveCrew :one
update crew set revision = revision + 1 returning revision;

-- name: Items :many
select * from item where deleted_at is null order by kind, name, id;

-- name: ItemsPage :many
select * from item where deleted_at is null and (kind, name, id) > (@after_kind::text, @after_name::text, @after_id::text)
order by kind, name, id limit @most;

-- name: CountItems :one
select count(*) from item where deleted_at is null;

-- name: ItemsByID :many
select * from item where id = any (@ids::text[]) and deleted_at is null order by kind, name, id;

-- name: Stretches :many
select item_id, load_pct, strain_pct from item_stretch where item_id = any (@ids::text[]) order by item_id, load_pct;

-- name: Lifts :many
select item_id, boom_m, radius_m, capacity_kg from item_lift where item_id = any (@ids::text[]) order by item_id, boom_m, radius_m;

-- name: Inspections :many
select item_id, on_day, by_whom, result, next_due, note from inspection where item_id = any (@ids::text[]) order by item_id, on_day, by_whom;

-- name: ItemRevision :one
select revision, deleted_at from item where id = @id;

-- name: PutItem :batchexec
insert into item (id, kind, name, serial, marked_kn, breaking_kn, diameter_m, length_m, dynamic_factor, efficiency, bend_m, friction,
  rigging_kg, mass_kg, payload_kg, volume_m3, grip, winch_kn, conditions, in_service, set_aside_on, set_aside_why, retired, note)
values (@id, @kind, @name, @serial, sqlc.narg(marked_kn), sqlc.narg(breaking_kn), sqlc.narg(diameter_m), sqlc.narg(length_m), sqlc.narg(dynamic_factor),
  sqlc.narg(efficiency), sqlc.narg(bend_m), sqlc.narg(friction), sqlc.narg(rigging_kg), sqlc.narg(mass_kg), sqlc.narg(payload_kg),
  sqlc.narg(volume_m3), sqlc.narg(grip), sqlc.narg(winch_kn), @conditions, sqlc.narg(in_service), sqlc.narg(set_aside_on),
  sqlc.narg(set_aside_why), @retired, @note)
on conflict (id) do update set kind = excluded.kind, name = excluded.name, serial = excluded.serial, marked_kn = excluded.marked_kn,
  breaking_kn = excluded.breaking_kn, diameter_m = excluded.diameter_m, length_m = excluded.length_m, dynamic_factor = excluded.dynamic_factor,
  efficiency = excluded.efficiency, bend_m = excluded.bend_m, friction = excluded.friction, rigging_kg = excluded.rigging_kg,
  mass_kg = excluded.mass_kg, payload_kg = excluded.payload_kg, volume_m3 = excluded.volume_m3, grip = excluded.grip, winch_kn = excluded.winch_kn,
  conditions = excluded.conditions, in_service = excluded.in_service, set_aside_on = excluded.set_aside_on, set_aside_why = excluded.set_aside_why,
  retired = excluded.retired, note = excluded.note, revision = item.revision + 1, changed_at = now(), deleted_at = null;

-- name: ClearStretches :exec
delete from item_stretch where item_id = any (@ids::text[]);

-- name: ClearLifts :exec
delete from item_lift where item_id = any (@ids::text[]);

-- name: ClearInspections :exec
delete from inspection where item_id = any (@ids::text[]);

-- name: CopyStretches :copyfrom
insert into item_stretch (item_id, load_pct, strain_pct) values (@item_id, @load_pct, @strain_pct);

-- name: CopyLifts :copyfrom
insert into item_lift (item_id, boom_m, radius_m, capacity_kg) values (@item_id, @boom_m, @radius_m, @capacity_kg);

-- name: CopyInspections :copyfrom
insert into inspection (item_id, on_day, by_whom, result, next_due, note) values (@item_id, @on_day, @by_whom, @result, @next_due, @note);

-- name: DeleteItem :execrows
update item set deleted_at = now() where id = @id and deleted_at is null;

-- name: RestoreItem :execrows
update item set deleted_at = null where id = @id and deleted_at is not null;

-- name: Policy :one
select number, saved_at, document from policy order by number desc limit 1;

-- name: Policies :many
select number, saved_at, document from policy where number < @before order by number desc limit @most;

-- name: CountPolicies :one
select count(*) from policy;

-- name: InsertPolicy :one
insert into policy (number, document) values (@number, @document) returning saved_at;

-- name: InsertBriefing :exec
insert into briefing (id, job_id, revision, crew) values (@id, @job_id, @revision, @crew);

-- name: Briefings :many
select id, revision, made_at from briefing
where job_id = @job_id and (made_at, id) < (@before_at::timestamptz, @before_id::uuid)
order by made_at desc, id desc limit @most;

-- name: CountBriefings :one
select count(*) from briefing where job_id = @job_id;

-- name: Briefing :one
select id, job_id, revision, made_at, crew from briefing where id = @id and job_id = @job_id;

-- name: InsertPhoto :execrows
insert into photo (id, job_id, about, note, media_type, width, height, picture)
values (@id, @job_id, @about, @note, @media_type, @width, @height, @picture)
on conflict (id) do nothing;

-- name: PhotoIs :one
select (job_id = @job_id and picture = @picture and deleted_at is null)::boolean as same from photo where id = @id;

-- name: Photos :many
select id, taken_at, about, note, media_type, width, height from photo where job_id = @job_id and deleted_at is null order by taken_at, id;

-- name: Photo :one
select media_type, picture from photo where id = @id and job_id = @job_id and deleted_at is null;

-- name: DeletePhoto :execrows
update photo set deleted_at = now() where id = @id and job_id = @job_id and deleted_at is null;

-- name: CountPhotos :one
select count(*) from photo where job_id = @job_id and deleted_at is null;

-- name: CopyPhotos :exec
insert into photo (id, job_id, taken_at, about, note, media_type, width, height, picture)
select gen_random_uuid(), @to_job::uuid, p.taken_at, p.about, p.note, p.media_type, p.width, p.height, p.picture from photo p where p.job_id = @from_job and p.deleted_at is null;

-- name: InsertJob :execrows
insert into job (id, head, name, species, work_on) values (@id, 1, @name, @species, @work_on) on conflict (id) do nothing;

-- name: InsertRevision :one
insert into revision (job_id, number, based_on, author, note, save_key, document)
values (@job_id, @number, sqlc.narg(based_on), @author, @note, @save_key, @document)
returning saved_at;

-- name: LockJob :one
select head, deleted_at from job where id = @id for update;

-- A revision and the head that it moves, in one trip to the database.
-- name: NextRevision :one
with made as (
  insert into revision (job_id, number, based_on, note, save_key, document)
  values (@job_id, @number, @based_on::int, @note, @save_key, @document)
  returning saved_at
)
update job set head = @number, name = @name, species = @species, work_on = @work_on, saved_at = made.saved_at
from made where job.id = @job_id
returning made.saved_at;

-- name: RevisionBySaveKey :one
select number, saved_at, (document = @document::jsonb)::boolean as same from revision where job_id = @job_id and save_key = @save_key;

-- name: Head :one
select j.id, j.head, j.deleted_at, r.saved_at, r.document
from job j join revision r on r.job_id = j.id and r.number = j.head
where j.id = @id;

-- name: HeadNumber :one
select head, (deleted_at is not null)::boolean as deleted from job where id = @id;

-- name: Revision :one
select number, based_on, saved_at, author, note, document
from revision where job_id = @job_id and number = @number;

-- name: Revisions :many
select number, based_on, saved_at, author, note
from revision where job_id = @job_id and number < @before order by number desc limit @most;

-- name: Jobs :many
select id, head, created_at, saved_at, name, species, work_on from job
where deleted_at is null and (saved_at, id) < (@before_at::timestamptz, @before_id::uuid)
order by saved_at desc, id desc limit @most;

-- name: CountJobs :one
select count(*) from job where deleted_at is null;

-- Found by its name first, by the index of parts of names; walked by day, each name would be
-- looked at.
-- name: JobsNamed :many
with found as materialized (
  select id, head, created_at, saved_at, name, species, work_on from job where deleted_at is null and name ilike @wanted
)
select id, head, created_at, saved_at, name, species, work_on, (select count(*) from found) as total from found
where (saved_at, id) < (@before_at::timestamptz, @before_id::uuid)
order by saved_at desc, id desc limit @most;

-- name: CountNamed :one
select count(*) from job where deleted_at is null and name ilike @wanted;

-- name: JobsByName :many
select id, head, created_at, saved_at, name, species, work_on, lower(name)::text as key from job
where deleted_at is null and name ilike @wanted and (lower(name), id) > (@after_key::text, @after_id::uuid)
order by lower(name), id limit @most;

-- name: JobsByDay :many
select id, head, created_at, saved_at, name, species, work_on, coalesce(nullif(work_on, ''), '~')::text as key from job
where deleted_at is null and name ilike @wanted and (coalesce(nullif(work_on, ''), '~'), id) > (@after_key::text, @after_id::uuid)
order by coalesce(nullif(work_on, ''), '~'), id limit @most;

-- name: Binned :many
select id, head, created_at, saved_at, name, species, work_on, deleted_at from job
where deleted_at is not null and name ilike @wanted and (deleted_at, id) < (@before_at::timestamptz, @before_id::uuid)
order by deleted_at desc, id desc limit @most;

-- name: CountBinned :one
select count(*) from job where deleted_at is not null and name ilike @wanted;

-- name: OpenDocuments :many
select j.id, j.head, j.saved_at, r.document
from job j join revision r on r.job_id = j.id and r.number = j.head
where j.deleted_at is null and (j.saved_at, j.id) < (@before_at::timestamptz, @before_id::uuid)
order by j.saved_at desc, j.id desc limit @most;

-- name: DeleteJob :execrows
update job set deleted_at = now() where id = @id and deleted_at is null;

-- name: RestoreJob :execrows
update job set deleted_at = null where id = @id;

-- What an archive brings keeps the times that it had.
-- name: BringJob :execrows
insert into job (id, head, name, species, work_on, saved_at) values (@id, @head, @name, @species, @work_on, @saved_at) on conflict (id) do nothing;

-- name: BringRevision :exec
insert into revision (job_id, number, based_on, saved_at, note, save_key, document)
values (@job_id, @number, sqlc.narg(based_on), @saved_at, @note, @save_key, @document);

-- name: BringBriefing :exec
insert into briefing (id, job_id, revision, made_at, crew) values (@id, @job_id, @revision, @made_at, @crew);

-- name: BringPhoto :exec
insert into photo (id, job_id, taken_at, about, note, media_type, width, height, picture)
values (@id, @job_id, @taken_at, @about, @note, @media_type, @width, @height, @picture);

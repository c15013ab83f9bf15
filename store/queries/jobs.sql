-- name: InsertJob :exec
insert into job (id, head) values (@id, 1) on conflict (id) do nothing;

-- name: JobExists :one
select exists (select 1 from job where id = @id);

-- name: InsertRevision :one
insert into revision (job_id, number, based_on, author, note, save_key, document)
values (@job_id, @number, sqlc.narg(based_on), @author, @note, @save_key, @document)
returning saved_at;

-- name: LockJob :one
select head, deleted_at from job where id = @id for update;

-- name: MoveHead :exec
update job set head = @head where id = @id;

-- name: RevisionBySaveKey :one
select number, saved_at from revision where job_id = @job_id and save_key = @save_key;

-- name: Head :one
select j.id, j.head, j.deleted_at, r.saved_at, r.document
from job j join revision r on r.job_id = j.id and r.number = j.head
where j.id = @id;

-- name: Revision :one
select number, based_on, saved_at, author, note, document
from revision where job_id = @job_id and number = @number;

-- name: Revisions :many
select number, based_on, saved_at, author, note
from revision where job_id = @job_id order by number desc limit 1000;

-- name: Jobs :many
select j.id, j.head, j.created_at, r.saved_at,
  (r.document ->> 'name')::text as name,
  coalesce(r.document #>> '{trees,0,wood,species}', r.document #>> '{tree,wood,species}', '')::text as species
from job j join revision r on r.job_id = j.id and r.number = j.head
where j.deleted_at is null
order by r.saved_at desc, j.id
limit 1000;

-- name: DeleteJob :execrows
update job set deleted_at = now() where id = @id and deleted_at is null;

-- name: RestoreJob :execrows
update job set deleted_at = null where id = @id;

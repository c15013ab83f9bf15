-- Who has a job open hears of every save of it, and of its going and coming back.
-- +goose Up
-- +goose StatementBegin
create function job_moved() returns trigger language plpgsql as $$
begin
  perform pg_notify('job_moved', json_build_object('id', new.id, 'revision', new.head, 'deleted', new.deleted_at is not null)::text);
  return null;
end
$$;
-- +goose StatementEnd

create trigger job_moved
  after update of head, deleted_at on job
  for each row execute function job_moved();

-- +goose Down
drop trigger job_moved on job;
drop function job_moved();

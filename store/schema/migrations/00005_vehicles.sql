-- +goose Up
-- Vehicles that pull logs and take them away are in the locker too.
alter table item drop constraint item_kind_check;
alter table item add constraint item_kind_check
  check (kind in ('rope', 'block', 'sling', 'device', 'connector', 'pulley', 'winch', 'crane', 'vehicle'));

-- +goose Down
delete from item where kind = 'vehicle';
alter table item drop constraint item_kind_check;
alter table item add constraint item_kind_check
  check (kind in ('rope', 'block', 'sling', 'device', 'connector', 'pulley', 'winch', 'crane'));

-- +goose Up
-- Vehicles that pull logs and take them away are in the locker too.
alter table item drop constraint item_kind_check;
alter table item add constraint item_kind_check
  check (kind in ('rope', 'block', 'sling', 'device', 'connector', 'pulley', 'winch', 'crane', 'vehicle'));
alter table item
  add column mass_kg double precision check (mass_kg > 0),
  add column payload_kg double precision check (payload_kg > 0),
  add column volume_m3 double precision check (volume_m3 > 0),
  add column grip double precision check (grip > 0),
  add column winch_kn double precision check (winch_kn > 0);

-- +goose Down
alter table item drop column mass_kg, drop column payload_kg, drop column volume_m3, drop column grip, drop column winch_kn;
delete from item where kind = 'vehicle';
alter table item drop constraint item_kind_check;
alter table item add constraint item_kind_check
  check (kind in ('rope', 'block', 'sling', 'device', 'connector', 'pulley', 'winch', 'crane'));

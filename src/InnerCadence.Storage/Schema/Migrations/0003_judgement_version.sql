alter table sighting add column version integer not null default 1;

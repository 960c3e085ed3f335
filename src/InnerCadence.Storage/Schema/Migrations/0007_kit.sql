-- The toms of the kit on a recording, codes from high to low; empty where nobody said.
alter table recording add column kit text not null default '' check (length(kit) <= 60);

-- What a row is, wherever it is copied to: an archive that comes back finds its own again by it. Not unique, since a copy of a study may stand beside its original.
alter table player         add column origin uuid not null default gen_random_uuid();
alter table ensemble       add column origin uuid not null default gen_random_uuid();
alter table release        add column origin uuid not null default gen_random_uuid();
alter table recording      add column origin uuid not null default gen_random_uuid();
alter table passage        add column origin uuid not null default gen_random_uuid();
alter table reading        add column origin uuid not null default gen_random_uuid();
alter table idea           add column origin uuid not null default gen_random_uuid();
alter table claim          add column origin uuid not null default gen_random_uuid();
alter table coverage       add column origin uuid not null default gen_random_uuid();
alter table session        add column origin uuid not null default gen_random_uuid();
alter table issue          add column origin uuid not null default gen_random_uuid();
alter table drummed        add column origin uuid not null default gen_random_uuid();
alter table idea_source    add column origin uuid not null default gen_random_uuid();
alter table heard_sighting add column origin uuid not null default gen_random_uuid();
alter table practice_item  add column origin uuid not null default gen_random_uuid();

-- Files that were opened together and wait to be looked at; nothing of them is in a study yet.
create table arrival (
  id           bigint generated always as identity primary key,
  study_id     bigint references study on delete cascade,
  recording_id bigint references recording on delete set null,
  kind         text not null default 'groove',
  timing       text not null default 'placed' check (timing in ('placed', 'kept')),
  job_id       bigint references job on delete set null,
  created_at   timestamptz not null default now()
);

create table arrived_file (
  id         bigint generated always as identity primary key,
  arrival_id bigint not null references arrival on delete cascade,
  name       text not null,
  content    bytea not null,
  -- What became of it, in a sentence; nothing while it waits.
  said       text,
  passage_id bigint references passage on delete set null
);
create index files_of_arrival on arrived_file (arrival_id);

-- Which drum a note number or an instrument of another program is; no voice where it is to be left out.
create table known_sound (
  called   text primary key check (called <> ''),
  voice    text,
  openness text check (openness in ('open', 'closed'))
);

-- How far a stroke was played from where it is written, late positive; only where a file brought a person's timing.
create table stroke_offset (
  reading_id bigint not null references reading on delete cascade,
  at_tick    integer not null,
  voice      text not null,
  offset_ms  double precision not null check (offset_ms between -1000 and 1000),
  primary key (reading_id, at_tick, voice)
);

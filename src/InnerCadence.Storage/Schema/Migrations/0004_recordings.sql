-- Ensembles and releases as their own things; a recording names them.
create table ensemble (
  id           bigint generated always as identity primary key,
  study_id     bigint not null references study,
  name         text not null check (name <> ''),
  active_from  date,
  active_to    date check (active_to >= active_from),
  note         text not null default '',
  version      integer not null default 1,
  unique (study_id, name)
);

create table release (
  id           bigint generated always as identity primary key,
  study_id     bigint not null references study,
  title        text not null check (title <> ''),
  ensemble_id  bigint references ensemble,
  issued_from  date,
  issued_to    date check (issued_to >= issued_from),
  note         text not null default '',
  version      integer not null default 1,
  unique (study_id, title)
);

insert into ensemble (study_id, name) select distinct study_id, ensemble from recording where ensemble <> '' order by 1, 2;
insert into release (study_id, title) select distinct study_id, release from recording where release <> '' order by 1, 2;

alter table recording
  add column ensemble_id bigint references ensemble,
  add column release_id bigint references release,
  add column issued_from date,
  add column issued_to date check (issued_to >= issued_from),
  add column sure text not null default 'certain' check (sure in ('certain', 'likely', 'disputed')),
  add column tempo_read text not null default 'as written' check (tempo_read in ('as written', 'half', 'double')),
  add column form text not null default '',
  add column chart_first_bar integer check (chart_first_bar between 1 and 100000),
  add column chart_repeats text not null default '';
update recording r set ensemble_id = e.id from ensemble e where e.study_id = r.study_id and e.name = r.ensemble;
update recording r set release_id = l.id from release l where l.study_id = r.study_id and l.title = r.release;
alter table recording drop column ensemble, drop column release;

-- What the form line says, bar by bar; written with it, never apart.
create table section (
  recording_id  bigint not null references recording,
  ordinal       integer not null,
  kind          text not null,
  name          text not null,
  first_bar     integer not null check (first_bar >= 1),
  bars          integer not null check (bars >= 0),
  meters        text,
  pause_ms      integer not null default 0,
  primary key (recording_id, ordinal)
);

create table bar_mark (
  recording_id  bigint not null references recording,
  bar           integer not null check (bar between 1 and 100000),
  at_ms         integer not null check (at_ms >= 0),
  primary key (recording_id, bar)
);

-- Labels, numbers and transfers under which one recording is to be had; reissues differ by seconds and run sharp.
create table issue (
  id            bigint generated always as identity primary key,
  recording_id  bigint not null references recording,
  label         text not null default '',
  number        text not null default '',
  transfer      text not null default '',
  issued_from   date,
  issued_to     date check (issued_to >= issued_from),
  speed         double precision not null default 1 check (speed between 0.5 and 2),
  offset_ms     integer not null default 0,
  note          text not null default ''
);
create index issue_of_recording on issue (recording_id);

-- Who drums where two drummers, overdubs or splices meet; what no span says is the recording’s own player.
create table drummed (
  id            bigint generated always as identity primary key,
  recording_id  bigint not null references recording,
  player_id     bigint not null references player,
  sure          text not null check (sure in ('certain', 'likely', 'disputed')),
  from_bar      integer not null check (from_bar >= 1),
  bars          integer not null check (bars >= 1),
  note          text not null default ''
);
create index drummed_of_recording on drummed (recording_id);

-- A span on the clock keeps its times; its bars follow from the tempo map whenever that changes.
alter table coverage
  add column from_ms integer check (from_ms >= 0),
  add column to_ms integer check (to_ms > from_ms),
  add column by_whom text not null default '',
  add column version integer not null default 1;
create table coverage_idea (
  coverage_id  bigint not null references coverage on delete cascade,
  idea_id      bigint not null references idea,
  primary key (coverage_id, idea_id)
);
insert into coverage_idea select id, idea_id from coverage where idea_id is not null;
alter table coverage drop column idea_id;

-- A file on its way into the study, and how its columns were read the last time a file had such a head.
create table import_file (
  id          bigint generated always as identity primary key,
  study_id    bigint not null references study,
  name        text not null,
  content     bytea not null,
  columns     jsonb not null default '{}',
  duplicates  text not null default 'merge' check (duplicates in ('merge', 'skip', 'keep')),
  job_id      bigint references job,
  bad_rows    text,
  created_at  timestamptz not null default now()
);
create table import_columns (
  study_id  bigint not null references study,
  head      text not null,
  columns   jsonb not null,
  primary key (study_id, head)
);

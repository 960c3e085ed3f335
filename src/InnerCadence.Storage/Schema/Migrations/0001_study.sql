create table study (
  id          bigint generated always as identity primary key,
  name        text not null check (name <> ''),
  question    text not null default '',
  version     integer not null default 1,
  created_at  timestamptz not null default now(),
  deleted_at  timestamptz
);

create table player (
  id          bigint generated always as identity primary key,
  study_id    bigint not null references study,
  name        text not null check (name <> ''),
  role        text not null check (role in ('subject', 'comparison')),
  handedness  text not null default 'right' check (handedness in ('right', 'left', 'open')),
  unique (study_id, name)
);
create unique index one_subject_a_study on player (study_id) where role = 'subject';

create table recording (
  id            bigint generated always as identity primary key,
  study_id      bigint not null references study,
  player_id     bigint not null references player,
  title         text not null check (title <> ''),
  ensemble      text not null default '',
  release       text not null default '',
  recorded_from date,
  recorded_to   date check (recorded_to >= recorded_from),
  kind          text not null check (kind in ('studio', 'live', 'broadcast', 'rehearsal')),
  take          text not null default '',
  meter         text not null default '4/4',
  tempo         double precision check (tempo between 20 and 400),
  duration_ms   integer check (duration_ms > 0),
  total_bars    integer check (total_bars between 1 and 100000),
  note          text not null default '',
  version       integer not null default 1,
  created_at    timestamptz not null default now(),
  deleted_at    timestamptz
);
create index recording_of_study on recording (study_id);

create table passage (
  id            bigint generated always as identity primary key,
  recording_id  bigint not null references recording,
  starts_at_ms  integer check (starts_at_ms >= 0),
  bar           integer check (bar between 1 and 100000),
  section       text not null default '',
  kind          text not null check (kind in ('groove', 'fill', 'lick', 'set-up', 'pick-up', 'ending', 'solo')),
  because_heard boolean not null default false,
  version       integer not null default 1,
  created_at    timestamptz not null default now(),
  updated_at    timestamptz not null default now(),
  deleted_at    timestamptz
);
create index passage_of_recording on passage (recording_id);

create table reading (
  id          bigint generated always as identity primary key,
  passage_id  bigint not null references passage,
  text        text not null,
  bars        integer not null,
  looped      boolean not null default false,
  source      text not null default 'ear',
  note        text not null default '',
  preferred   boolean not null default true,
  updated_at  timestamptz not null default now()
);
create unique index one_preferred_reading on reading (passage_id) where preferred;

create table idea (
  id          bigint generated always as identity primary key,
  study_id    bigint not null references study,
  nickname    text not null check (nickname <> ''),
  note        text not null default '',
  text        text not null,
  span_ticks  integer check (span_ticks > 0),
  scope       text[],
  rules       jsonb not null,
  reading_id  bigint references reading,
  named_on    date not null default current_date,
  version     integer not null default 1,
  created_at  timestamptz not null default now(),
  deleted_at  timestamptz
);
create index idea_of_study on idea (study_id);
create unique index one_idea_of_a_name on idea (study_id, lower(nickname)) where deleted_at is null;

create table coverage (
  id           bigint generated always as identity primary key,
  recording_id bigint not null references recording,
  closeness    text not null check (closeness in ('skimmed', 'listened', 'transcribed')),
  from_bar     integer check (from_bar >= 1),
  bars         integer not null check (bars between 1 and 100000),
  idea_id      bigint references idea,
  searched_on  date not null default current_date
);
create index coverage_of_recording on coverage (recording_id);

-- What the last scan found, and what the researcher made of it. A judgement outlives the scan that found its place.
create table sighting (
  id          bigint generated always as identity primary key,
  idea_id     bigint not null references idea,
  reading_id  bigint not null references reading,
  start_tick  integer not null,
  end_tick    integer not null,
  factor      text not null,
  verdict     text not null check (verdict in ('exact', 'variant', 'near-miss')),
  cost        integer not null,
  unsure      integer not null,
  transforms  text[] not null,
  edits       jsonb not null,
  summary     text not null,
  vanished    boolean not null default false,
  judgement   text check (judgement in ('confirmed', 'near-miss', 'rejected')),
  reason      text not null default '',
  judged_at   timestamptz,
  changed     boolean not null default false,
  unique (idea_id, reading_id, start_tick)
);
create index sighting_of_reading on sighting (reading_id);

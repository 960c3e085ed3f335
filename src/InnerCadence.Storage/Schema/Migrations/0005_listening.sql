-- A sound file of the person's own, kept by its content; never part of an export.
create table sound (
  id            bigint generated always as identity primary key,
  recording_id  bigint not null references recording,
  hash          text not null,
  name          text not null,
  media         text not null,
  bytes         bigint not null,
  seconds       double precision,
  simulated     boolean not null default false,
  overview      bytea,
  created_at    timestamptz not null default now(),
  deleted_at    timestamptz
);
create unique index one_sound_a_recording on sound (recording_id) where deleted_at is null;

-- An evening of listening: what passed, and what was noticed.
create table session (
  id            bigint generated always as identity primary key,
  recording_id  bigint not null references recording,
  everything    boolean not null,
  by_whom       text not null default '',
  reaction_ms   integer not null default 0 check (reaction_ms between 0 and 2000),
  at_ms         integer not null default 0,
  created_at    timestamptz not null default now(),
  ended_at      timestamptz
);
create index session_of_recording on session (recording_id);
create table session_idea (
  session_id  bigint not null references session,
  key         integer not null check (key between 1 and 9),
  idea_id     bigint not null references idea,
  primary key (session_id, key)
);
-- Spans of the clock that passed while listening; one grows under its key until it is paused.
create table heard (
  session_id  bigint not null references session,
  key         uuid not null,
  from_ms     integer not null check (from_ms >= 0),
  to_ms       integer not null check (to_ms >= from_ms),
  primary key (session_id, key)
);
create table stamp (
  id          bigint generated always as identity primary key,
  session_id  bigint not null references session,
  key         uuid not null unique,
  kind        text not null check (kind in ('idea', 'fill', 'bar', 'note')),
  idea_id     bigint references idea,
  at_ms       integer not null check (at_ms >= 0),
  bar         integer check (bar between 1 and 100000),
  note        text not null default '',
  undone      boolean not null default false,
  passage_id  bigint references passage
);
create index stamp_of_session on stamp (session_id);

-- What is practised, how far it got, and what came of each round.
create table practice_item (
  id         bigint generated always as identity primary key,
  study_id   bigint not null references study on delete cascade,
  idea_id    bigint references idea on delete set null,
  passage_id bigint references passage on delete set null,
  name       text not null check (name <> ''),
  text       text not null,
  goal       double precision not null check (goal between 20 and 400),
  start      double precision not null check (start between 20 and 400),
  minutes    integer not null default 10 check (minutes between 1 and 240),
  rung       integer not null default 0 check (rung >= 0),
  clean      integer not null default 0,
  failed     integer not null default 0,
  stopped    boolean not null default false,
  due_on     date not null default current_date,
  due_after  integer,
  created_at timestamptz not null default now(),
  deleted_at timestamptz
);
create index practice_of_study on practice_item (study_id);

-- The key is made where it is played, so that what is sent twice is kept once.
create table practice_log (
  id      bigint generated always as identity primary key,
  item_id bigint not null references practice_item on delete cascade,
  key     uuid not null unique,
  at      timestamptz not null default now(),
  tempo   double precision not null,
  outcome text check (outcome in ('clean', 'failed')),
  pain    integer check (pain between 0 and 3),
  note    text not null default ''
);
create index log_of_item on practice_log (item_id, at);

-- Minutes there are on each day of the week, Monday first.
create table practice_week (
  study_id bigint primary key references study on delete cascade,
  minutes  integer[] not null
);

-- How fast somebody's hands and feet are, in strokes a second; one row for the installation.
create table limb_limit (
  one         boolean primary key default true check (one),
  hand        double precision not null,
  hand_burst  double precision not null,
  doubles     double precision not null,
  foot        double precision not null,
  foot_double double precision not null
);

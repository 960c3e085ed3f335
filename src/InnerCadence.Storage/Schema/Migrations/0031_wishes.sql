-- What listeners wish to be looked at next, with how many wish it.
create table wish (
  id           bigint generated always as identity primary key,
  study_id     bigint not null references study on delete cascade,
  words        text not null check (words <> ''),
  votes        integer not null default 1 check (votes between 1 and 100000),
  created_at   timestamptz not null default now(),
  fulfilled_at timestamptz,
  unique (study_id, words)
);
comment on column wish.fulfilled_at is 'Nothing while it is open.';

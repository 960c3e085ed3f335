-- Whether an idea would have been noticed before it had its name: the listener's statement, with its date. Ideas that are there already are not asked yet and count as “no”.
alter table idea
  add column noticed text not null default 'not asked' check (noticed in ('not asked', 'asked', 'everywhere', 'somewhere', 'no')),
  add column noticed_on date;
create table idea_noticed (
  idea_id      bigint not null references idea on delete cascade,
  coverage_id  bigint not null references coverage on delete cascade,
  primary key (idea_id, coverage_id)
);

-- By which account of the evidence a study's numbers were last counted, and an edition's for good.
alter table study add column counted integer not null default 1;
alter table edition add column counted integer not null default 1;

-- What a new account changed, told on the Desk until it is dismissed.
create table counted_anew (
  id            bigint generated always as identity primary key,
  study_id      bigint not null references study on delete cascade,
  counted       integer not null,
  what          text not null,
  link          text not null default '',
  was           text not null,
  now_is        text not null,
  at            timestamptz not null default now(),
  dismissed_at  timestamptz,
  unique (study_id, counted, what)
);

-- Counted the exemplar itself and drew other shuffles in every process.
delete from idea_chance;

-- Amounts of searched bars in a file of recordings: asked for later, or the first so many bars.
alter table import_file add column places text not null default 'asked' check (places in ('asked', 'first'));

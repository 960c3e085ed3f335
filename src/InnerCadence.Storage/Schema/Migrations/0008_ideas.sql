-- What is known of an idea beside its rules, where it comes from, where it was heard without being written down, and who judged.
alter table idea
  add column tags text[] not null default '{}',
  add column sounds text not null default '',
  add column avoid text not null default '',
  add column updated_at timestamptz not null default now();

-- A passage that must show the idea, or must not: what a change of rules is tried on.
create table idea_pin (
  idea_id     bigint not null references idea,
  passage_id  bigint not null references passage,
  counter     boolean not null,
  primary key (idea_id, passage_id)
);

create table idea_link (
  idea_id   bigint not null references idea,
  of_id     bigint not null references idea,
  kind      text not null check (kind in ('variant of', 'built from', 'opposite of')),
  primary key (idea_id, of_id),
  check (idea_id <> of_id)
);

-- Borrowed from: a player of the study, or somebody outside it.
create table idea_source (
  id          bigint generated always as identity primary key,
  idea_id     bigint not null references idea,
  who         text not null,
  dated_from  date,
  dated_to    date,
  note        text not null default ''
);
create index idea_source_of_idea on idea_source (idea_id);

create table heard_sighting (
  id            bigint generated always as identity primary key,
  idea_id       bigint not null references idea,
  recording_id  bigint not null references recording,
  at_ms         integer check (at_ms >= 0),
  bar           integer check (bar between 1 and 100000),
  note          text not null default '',
  stamp_id      bigint unique references stamp,
  created_at    timestamptz not null default now(),
  check (at_ms is not null or bar is not null)
);
create index heard_sighting_of_idea on heard_sighting (idea_id);

-- Every judgement ever made, by whom: agreement is worked out from these.
create table judgement_made (
  id           bigint generated always as identity primary key,
  sighting_id  bigint not null references sighting on delete cascade,
  judge        text not null,
  judgement    text not null check (judgement in ('confirmed', 'near-miss', 'rejected')),
  blind        boolean not null,
  made_at      timestamptz not null default now()
);
create index judgement_made_of_sighting on judgement_made (sighting_id);

create table setting (
  name   text primary key,
  value  text not null
);

-- Filters of the comparing views by name, and what an idea would count by chance.
create table saved_filter (
  id        bigint generated always as identity primary key,
  study_id  bigint not null references study,
  name      text not null,
  query     text not null,
  unique (study_id, name)
);

create table idea_chance (
  idea_id   bigint primary key references idea,
  made_at   timestamptz not null default now(),
  evidence  text not null,
  observed  integer not null,
  expected  double precision not null,
  p         double precision not null
);

-- Which recordings the ear has looked through for an idea, and where it may be: worked out from the sounds, so made again and in no archive.
create table looked_through (
  idea_id      bigint not null references idea on delete cascade,
  recording_id bigint not null references recording on delete cascade,
  looked_for   text not null,
  bars         integer not null check (bars >= 0),
  looked_at    timestamptz not null default now(),
  primary key (idea_id, recording_id)
);
comment on column looked_through.looked_for is 'The idea, the sound and the ear as they were: where one of them is another by now, it is looked through anew.';

create table found_place (
  id           bigint generated always as identity primary key,
  idea_id      bigint not null references idea on delete cascade,
  recording_id bigint not null references recording on delete cascade,
  at_ms        integer not null check (at_ms >= 0),
  until_ms     integer not null check (until_ms >= at_ms),
  bar          integer check (bar between 1 and 100000),
  score        double precision not null,
  strengths    double precision[] not null default '{}'
);
create index found_place_of_idea on found_place (idea_id, score desc);
comment on column found_place.at_ms is 'Clock of the idea''s first stroke.';
comment on column found_place.score is '1 where every stroke is heard and no other.';
comment on column found_place.strengths is 'How surely each stroke of the idea is there, 0 to 1.';

-- What a person said of a place that the ear found: kept by its clock, so that it stays when the sound is looked through anew.
create table looked_judgement (
  id           bigint generated always as identity primary key,
  idea_id      bigint not null references idea on delete cascade,
  recording_id bigint not null references recording on delete cascade,
  at_ms        integer not null check (at_ms >= 0),
  judged       text not null check (judged in ('yes', 'maybe', 'no')),
  heard_id     bigint references heard_sighting on delete set null,
  judged_at    timestamptz not null default now(),
  unique (idea_id, recording_id, at_ms)
);
comment on column looked_judgement.heard_id is 'The sighting by hand that a yes became.';

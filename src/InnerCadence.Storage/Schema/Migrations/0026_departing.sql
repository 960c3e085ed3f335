-- Where each stroke of a found place falls, and whose it is: the picture lays beads there.
alter table found_place add column offsets_ms integer[] not null default '{}', add column voices text[] not null default '{}';
comment on column found_place.offsets_ms is 'Of each stroke, after at_ms; empty where it was looked for by an older program.';
comment on column found_place.voices is 'Of each stroke, as codes.';

-- Bars that depart from the commonest one of their recording: worked out from the sounds, so made again and in no archive.
create table departing_look (
  recording_id bigint primary key references recording on delete cascade,
  looked_for   text not null,
  bars         integer not null check (bars >= 0)
);
comment on column departing_look.looked_for is 'The sound, its bars and the ear as they were: where one of them is another by now, it is looked through anew.';

create table departing_bar (
  id           bigint generated always as identity primary key,
  recording_id bigint not null references recording on delete cascade,
  at_ms        integer not null check (at_ms >= 0),
  until_ms     integer not null check (until_ms >= at_ms),
  bar          integer check (bar between 1 and 100000),
  surprise     double precision not null,
  words        text not null
);
create index departing_bar_of_recording on departing_bar (recording_id);
comment on column departing_bar.bar is 'Nothing where bars were taken by the ear.';
comment on column departing_bar.surprise is 'How far it departs, in nats more than bars of its recording on the whole.';

-- A person heard such a bar, and it is nothing.
create table heard_nothing (
  id           bigint generated always as identity primary key,
  recording_id bigint not null references recording on delete cascade,
  at_ms        integer not null check (at_ms >= 0),
  heard_at     timestamptz not null default now(),
  unique (recording_id, at_ms)
);

-- Questions to all sounds of a study without a name: what is like a few counts, what comes back. Worked out, so in no archive.
create table sound_question (
  id           bigint generated always as identity primary key,
  study_id     bigint not null references study on delete cascade,
  kind         text not null check (kind in ('like', 'recurring')),
  asked        jsonb not null default '{}',
  result       jsonb,
  made_at      timestamptz
);
create index sound_question_of_study on sound_question (study_id, kind, id desc);

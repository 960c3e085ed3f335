-- What a search for recurring cells found, with the settings that made it and the evidence it was made of.
create table discovery (
  id          bigint generated always as identity primary key,
  study_id    bigint not null references study,
  settings    jsonb not null,
  job_id      bigint references job,
  made_at     timestamptz,
  evidence    text not null default '',
  result      jsonb
);
create index discovery_of_study on discovery (study_id);

create table dismissed_cell (
  study_id      bigint not null references study,
  cell          text not null,
  words         text not null,
  dismissed_at  timestamptz not null default now(),
  primary key (study_id, cell)
);

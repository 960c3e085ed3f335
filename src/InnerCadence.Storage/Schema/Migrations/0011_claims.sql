-- What the study says, how it has stood against the evidence, and the prose in which it is told.
create table claim (
  id         bigint generated always as identity primary key,
  study_id   bigint not null references study on delete cascade,
  sentence   text not null check (sentence <> ''),
  test       text not null check (test in ('present', 'rate', 'only-above', 'only-below', 'only-section', 'only-phrase-bar', 'never-before', 'more-than', 'first', 'voice', 'trait')),
  player_id  bigint not null references player on delete cascade,
  idea_id    bigint references idea on delete cascade,
  other_id   bigint references player on delete cascade,
  least      double precision check (least > 0),
  tempo      double precision check (tempo between 20 and 400),
  kind       text not null default '',
  section    text not null default '',
  phrase_bar integer check (phrase_bar between 1 and 32),
  phrase_of  integer check (phrase_of between 2 and 32),
  dated_from date,
  dated_to   date check (dated_to >= dated_from),
  voice      text not null default '',
  meter      text not null default '',
  at_tick    integer check (at_tick >= 0),
  trait      text not null default '',
  note       text not null default '',
  version    integer not null default 1,
  created_at timestamptz not null default now(),
  deleted_at timestamptz
);
create index claim_of_study on claim (study_id);

-- Each change of standing, with what caused it; the newest is how the claim stands.
create table claim_standing (
  id       bigint generated always as identity primary key,
  claim_id bigint not null references claim on delete cascade,
  at       timestamptz not null default now(),
  standing text not null check (standing in ('supported', 'contradicted', 'open')),
  figures  text not null,
  reason   text not null,
  cause    text not null
);
create index standing_of_claim on claim_standing (claim_id, id);

create table article (
  study_id   bigint primary key references study on delete cascade,
  title      text not null default '',
  text       text not null default '',
  -- What each live number said when the text was last saved.
  numbers    jsonb not null default '{}',
  version    integer not null default 1,
  updated_at timestamptz not null default now()
);

-- Never changed once written.
create table edition (
  id         bigint generated always as identity primary key,
  study_id   bigint not null references study on delete cascade,
  number     integer not null check (number >= 1),
  title      text not null,
  text       text not null,
  html       text not null,
  numbers    jsonb not null,
  note       text not null default '',
  frozen_at  timestamptz not null default now(),
  unique (study_id, number)
);

-- Interviews, books, letters: what is cited and is no recording.
create table cited_source (
  id       bigint generated always as identity primary key,
  study_id bigint not null references study on delete cascade,
  key      text not null check (key ~ '^[a-z0-9-]{1,40}$'),
  text     text not null check (text <> ''),
  unique (study_id, key)
);

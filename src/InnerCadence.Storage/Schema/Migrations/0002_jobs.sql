-- Long work: claimed by one worker, kept alive by its heartbeat, taken over when that stops.
create table job (
  id            bigint generated always as identity primary key,
  kind          text not null,
  study_id      bigint references study,
  input         jsonb not null default '{}',
  state         text not null default 'waiting' check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
  progress      integer not null default 0 check (progress between 0 and 100),
  said          text not null default '',
  attempts      integer not null default 0,
  cancel_asked  boolean not null default false,
  worker        uuid,
  heartbeat_at  timestamptz,
  created_at    timestamptz not null default now(),
  ended_at      timestamptz
);
create index job_to_do on job (id) where state in ('waiting', 'running');

-- How sure a reading is of itself, and when which one was preferred.
alter table reading add column confidence text not null default 'likely' check (confidence in ('certain', 'likely', 'guess'));
create table reading_choice (
  id          bigint generated always as identity primary key,
  passage_id  bigint not null references passage,
  reading_id  bigint not null references reading,
  chosen_at   timestamptz not null default now()
);
create index reading_choice_of_passage on reading_choice (passage_id);

-- A place that was heard because it lies far down the list: only such ones tell how much the list misses.
alter table looked_judgement add column at_random boolean not null default false;
comment on column looked_judgement.at_random is 'It was shown from far below what was judged so far, not for its rank.';

-- When an idea was first looked for in a recording: a place is known without the ear where it was known by then.
alter table looked_through add column first_at timestamptz not null default now();
update looked_through set first_at = looked_at;
comment on column looked_through.first_at is 'Looking again leaves it as it is.';

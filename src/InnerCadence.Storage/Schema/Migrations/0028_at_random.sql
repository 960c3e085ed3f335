-- A place that was heard because it lies far down the list: only such ones tell how much the list misses.
alter table looked_judgement add column at_random boolean not null default false;
comment on column looked_judgement.at_random is 'It was shown from far below what was judged so far, not for its rank.';

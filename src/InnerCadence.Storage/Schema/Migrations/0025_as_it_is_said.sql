-- Dates and tempos in the words of the sleeve, where they say more or less than the span that is counted with: spring 1972, c. 1970, 120-124.
alter table recording
  add column recorded_said text not null default '',
  add column issued_said   text not null default '',
  add column tempo_said    text not null default '';
comment on column recording.recorded_said is 'As it was typed, where that is another way to say it than recorded_from to recorded_to.';
comment on column recording.issued_said is 'As it was typed, where that is another way to say it than issued_from to issued_to.';
comment on column recording.tempo_said is 'As it was typed, where that is another way to say it than tempo: a rough one, or a span whose middle is the tempo.';

alter table import_file add column day_month text not null default '' check (day_month in ('', 'day', 'month'));
comment on column import_file.day_month is 'What comes first in dates such as 3/4/1972, where somebody was asked.';

-- What was measured stays with the reading: how clearly each stroke's start was heard, its grace and its loudness.
alter table stroke_offset
  add column sureness double precision not null default 1 check (sureness between 0 and 1),
  add column flam_ms double precision check (flam_ms between 0 and 1000),
  add column loudness double precision check (loudness between 0 and 1);
comment on column stroke_offset.sureness is 'How clearly the start of the stroke was heard, 0 to 1; 1 where a file of notes told it.';
comment on column stroke_offset.flam_ms is 'Milliseconds from its grace stroke to it; null where none was heard.';
comment on column stroke_offset.loudness is 'As MIDI velocity / 127; null where nobody knows.';

-- A reading that was measured against its sound, and what of it could not be matched.
create table measured (
  reading_id     bigint primary key references reading on delete cascade,
  text           text not null,
  ear            text not null,
  measured_at    timestamptz not null default now(),
  swing_share    double precision check (swing_share between 0.5 and 0.8),
  lines          double precision[] not null check (array_length(lines, 1) > 1),
  missing_ticks  integer[] not null default '{}',
  missing_voices text[] not null default '{}',
  extra_at       double precision[] not null default '{}',
  extra_families text[] not null default '{}'
);
comment on column measured.text is 'The reading as it was measured: where it is another by now, it can be measured anew.';
comment on column measured.swing_share is 'Share of the quarter before the off-beat, from which off-beats are early or late; null where it is straight, or as the text says.';
comment on column measured.lines is 'Seconds of the sound at which its bar lines lie, by the fitted grid, and of the end of its last bar.';
comment on column measured.missing_ticks is 'Strokes that are written and not in the sound, by their place from the first bar line; their voices beside it.';
comment on column measured.extra_at is 'Seconds at which something is struck that is not written; the families beside it.';

-- What was put right by hand before a file was taken in: words for kinds, and single cells by line and field.
alter table import_file
  add column kinds jsonb not null default '{}',
  add column mended jsonb not null default '{}';

-- What is struck in a sound is heard by the trained ear, which tells its version; what the old rules heard is heard anew from the file.
alter table sound add column ear text;
comment on column sound.ear is 'Version of the ear that heard the strokes kept here; null where they were found by rules, or not looked for yet.';
update sound set heard = null;

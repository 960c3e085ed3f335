-- Studies that are being read from a folder. One that is still here at a start was cut off and goes; without a foreign key, so that no archive takes it along.
create table unfinished (study_id bigint primary key);

-- What is made of a file that the core does not read itself: its sound as WAV, and of a film what a browser plays. Both by hash; made again from the original.
alter table sound add column decoded text;
alter table sound add column film text;
alter table sound add column film_media text;
comment on column sound.decoded is 'Hash of the WAV made of the file; null where the file is WAV itself, or it was not made yet.';
comment on column sound.film is 'Hash of the film as a browser plays it; null where there is none, or it was not made yet.';
comment on column sound.film_media is 'Its media type.';

-- What was struck in a sound and which tempo it may have, as the core heard it: proposals, made again at any time.
alter table sound add column heard jsonb;

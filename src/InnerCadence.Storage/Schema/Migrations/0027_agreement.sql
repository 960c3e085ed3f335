-- How well the ear agrees with what a person wrote of a recording: recall is taken apart by it.
alter table looked_through add column agreement double precision check (agreement between 0 and 1);
comment on column looked_through.agreement is 'The share of written strokes that the ear hears too; nothing where too little is written.';

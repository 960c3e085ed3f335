-- A row for each change of what a study's numbers rest on, in the transaction of the change: what is kept ready is good as long as none has come. Rows are only
-- added, so that nobody waits for anybody; no foreign key, so that no archive takes them along.
create table evidence_change (
  id        bigint generated always as identity,
  study_id  bigint not null,
  at        timestamptz not null default now()
);
create index evidence_change_of_study on evidence_change (study_id, id);

-- Which study the changed rows belong to, as a query over them.
create function tell_evidence_changed() returns trigger language plpgsql security definer set search_path = public as $$
begin
  execute format('insert into evidence_change (study_id) select distinct s from (%s) as of_study (s) where s is not null', TG_ARGV[0]);
  return null;
end
$$;

do $$
declare
  of_recording text := 'select r.study_id from changed t join recording r on r.id = t.recording_id';
  of_idea text := 'select i.study_id from changed t join idea i on i.id = t.idea_id';
  watched record;
begin
  for watched in select * from (values
    ('study', 'select t.id from changed t'),
    ('player', 'select t.study_id from changed t'),
    ('ensemble', 'select t.study_id from changed t'),
    ('release', 'select t.study_id from changed t'),
    ('recording', 'select t.study_id from changed t'),
    ('idea', 'select t.study_id from changed t'),
    ('claim', 'select t.study_id from changed t'),
    ('passage', of_recording),
    ('coverage', of_recording),
    ('section', of_recording),
    ('bar_mark', of_recording),
    ('drummed', of_recording),
    ('issue', of_recording),
    ('reading', 'select r.study_id from changed t join passage a on a.id = t.passage_id join recording r on r.id = a.recording_id'),
    ('sighting', of_idea),
    ('heard_sighting', of_idea),
    ('idea_noticed', of_idea),
    ('coverage_idea', 'select r.study_id from changed t join coverage c on c.id = t.coverage_id join recording r on r.id = c.recording_id'),
    ('stamp', 'select r.study_id from changed t join session s on s.id = t.session_id join recording r on r.id = s.recording_id')
  ) as w (name, studies)
  loop
    execute format('create trigger tell_inserted after insert on %I referencing new table as changed for each statement execute function tell_evidence_changed(%L)', watched.name, watched.studies);
    execute format('create trigger tell_updated after update on %I referencing new table as changed for each statement execute function tell_evidence_changed(%L)', watched.name, watched.studies);
    execute format('create trigger tell_deleted after delete on %I referencing old table as changed for each statement execute function tell_evidence_changed(%L)', watched.name, watched.studies);
  end loop;
end
$$;

-- What was measured is evidence too: a change of it is told like any other.
do $$
declare
  of_reading text := 'select r.study_id from changed t join reading g on g.id = t.reading_id join passage a on a.id = g.passage_id join recording r on r.id = a.recording_id';
begin
  execute format('create trigger tell_inserted after insert on stroke_offset referencing new table as changed for each statement execute function tell_evidence_changed(%L)', of_reading);
  execute format('create trigger tell_updated after update on stroke_offset referencing new table as changed for each statement execute function tell_evidence_changed(%L)', of_reading);
  execute format('create trigger tell_deleted after delete on stroke_offset referencing old table as changed for each statement execute function tell_evidence_changed(%L)', of_reading);
end
$$;

-- A claim can be about how early or late a voice lies.
alter table claim
  add column against text not null default '',
  add column late_ms double precision check (late_ms between -200 and 200),
  drop constraint claim_test_check,
  add constraint claim_test_check check (test in ('present', 'rate', 'only-above', 'only-below', 'only-section', 'only-phrase-bar', 'never-before', 'more-than', 'first', 'voice', 'trait', 'late'));
comment on column claim.against is 'Code of the voice that keeps time, for a claim about another that lies behind or ahead of it.';
comment on column claim.late_ms is 'Milliseconds behind that voice at least; below zero: ahead of it.';

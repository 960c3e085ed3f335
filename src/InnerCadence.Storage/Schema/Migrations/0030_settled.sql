-- A judgement that was made with both verdicts in view ends what two judges differed about.
alter table judgement_made add column settles boolean not null default false;

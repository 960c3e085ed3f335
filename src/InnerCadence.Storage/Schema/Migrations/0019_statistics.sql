-- A few rows never reach the usual threshold at which a table is looked at, and of one that nobody looked at the planner thinks that nearly every row is deleted.
alter table study set (autovacuum_analyze_threshold = 1, autovacuum_analyze_scale_factor = 0.1);
alter table player set (autovacuum_analyze_threshold = 1, autovacuum_analyze_scale_factor = 0.1);
alter table recording set (autovacuum_analyze_threshold = 5, autovacuum_analyze_scale_factor = 0.1);
alter table idea set (autovacuum_analyze_threshold = 5, autovacuum_analyze_scale_factor = 0.1);
alter table claim set (autovacuum_analyze_threshold = 5, autovacuum_analyze_scale_factor = 0.1);

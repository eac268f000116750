-- A levelling delay may be empty, which is not the same as a delay of nothing. Rows had 0 for both; none was ever levelled.
CREATE TABLE activities_next (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  wbs_id TEXT,
  type TEXT NOT NULL,
  duration INTEGER NOT NULL CHECK (duration >= 0),
  calendar_id TEXT,
  constraints TEXT NOT NULL,
  deadline TEXT,
  actual_start TEXT,
  actual_finish TEXT,
  remaining INTEGER,
  suspend TEXT,
  resume TEXT,
  levelling_delay INTEGER,
  cost REAL NOT NULL,
  notes TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, wbs_id) REFERENCES wbs(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, calendar_id) REFERENCES calendars(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
INSERT INTO activities_next SELECT project_id, id, rank, code, name, wbs_id, type, duration, calendar_id, constraints, deadline,
  actual_start, actual_finish, remaining, suspend, resume, nullif(levelling_delay, 0), cost, notes FROM activities;
DROP TABLE activities;
ALTER TABLE activities_next RENAME TO activities;
CREATE INDEX activities_wbs ON activities(project_id, wbs_id);
CREATE INDEX activities_calendar ON activities(project_id, calendar_id);
-- The children of a node, for judging moves of branches.
CREATE INDEX wbs_parent ON wbs(project_id, parent_id);
-- Numbers of new activities count on from here.
UPDATE project_settings SET options = json_set(options, '$.numberFrom', 101, '$.numberStep', 1);
-- The figures of the list of projects, kept as they were computed.
CREATE TABLE summaries (
  project_id TEXT PRIMARY KEY REFERENCES projects(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  -- Counts up when the core computes otherwise than before.
  version INTEGER NOT NULL,
  content TEXT NOT NULL
) WITHOUT ROWID;

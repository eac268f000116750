-- Parts of WBS codes given by hand, dated notes, and attached files.
ALTER TABLE wbs ADD COLUMN code TEXT NOT NULL DEFAULT '';

CREATE TABLE dated_notes (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  activity_id TEXT,
  wbs_id TEXT,
  at TEXT NOT NULL,
  who TEXT NOT NULL,
  text TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, activity_id) REFERENCES activities(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, wbs_id) REFERENCES wbs(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX dated_notes_activity ON dated_notes(project_id, activity_id);
CREATE INDEX dated_notes_wbs ON dated_notes(project_id, wbs_id);

CREATE TABLE files (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  activity_id TEXT,
  wbs_id TEXT,
  at TEXT NOT NULL,
  who TEXT NOT NULL,
  name TEXT NOT NULL,
  size INTEGER NOT NULL,
  hash TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, activity_id) REFERENCES activities(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, wbs_id) REFERENCES wbs(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX files_activity ON files(project_id, activity_id);
CREATE INDEX files_wbs ON files(project_id, wbs_id);

-- What files hold, once for all files that hold the same. It outlives their rows, so that undo brings them back whole.
CREATE TABLE contents (
  hash TEXT PRIMARY KEY,
  bytes BLOB NOT NULL
);

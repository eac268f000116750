-- One table an entity. Rows of a project are keyed by project and id; references are checked when a transaction ends.
CREATE TABLE projects (
  id TEXT PRIMARY KEY,
  revision INTEGER NOT NULL DEFAULT 0,
  created_at TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  changed_by TEXT NOT NULL,
  archived_at TEXT,
  deleted_at TEXT
);

CREATE TABLE calendars (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  based_on TEXT,
  week TEXT,
  exceptions TEXT NOT NULL,
  hours_per_day REAL,
  days_per_week REAL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, based_on) REFERENCES calendars(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;

CREATE TABLE snapshots (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  description TEXT NOT NULL,
  at TEXT NOT NULL,
  data_date TEXT,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

-- The copy of a snapshot outlives its entry, so that undoing a deletion brings it back whole.
CREATE TABLE snapshot_copies (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  revision INTEGER NOT NULL,
  content BLOB NOT NULL,
  PRIMARY KEY (project_id, id)
);

CREATE TABLE project_settings (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL CHECK (id = 'project'),
  rank REAL NOT NULL,
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  planned_start TEXT NOT NULL,
  data_date TEXT,
  required_finish TEXT,
  calendar_id TEXT NOT NULL,
  options TEXT NOT NULL,
  baseline_id TEXT,
  currency TEXT NOT NULL,
  notes TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, calendar_id) REFERENCES calendars(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, baseline_id) REFERENCES snapshots(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;

CREATE TABLE wbs (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  parent_id TEXT,
  name TEXT NOT NULL,
  notes TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, parent_id) REFERENCES wbs(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;

CREATE TABLE activities (
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
  levelling_delay INTEGER NOT NULL,
  cost REAL NOT NULL,
  notes TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, wbs_id) REFERENCES wbs(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, calendar_id) REFERENCES calendars(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX activities_wbs ON activities(project_id, wbs_id);
CREATE INDEX activities_calendar ON activities(project_id, calendar_id);

CREATE TABLE links (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  from_id TEXT NOT NULL,
  to_id TEXT NOT NULL,
  type TEXT NOT NULL,
  lag INTEGER NOT NULL,
  lag_calendar TEXT,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, from_id) REFERENCES activities(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, to_id) REFERENCES activities(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX links_from ON links(project_id, from_id);
CREATE INDEX links_to ON links(project_id, to_id);

-- Append-only: what was done, by whom, with every row before and after.
CREATE TABLE change_log (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  revision INTEGER NOT NULL,
  change_id TEXT NOT NULL,
  label TEXT NOT NULL,
  kind TEXT NOT NULL,
  target TEXT,
  who TEXT NOT NULL,
  client TEXT NOT NULL,
  at TEXT NOT NULL,
  changes TEXT NOT NULL,
  PRIMARY KEY (project_id, revision)
);
CREATE UNIQUE INDEX change_log_id ON change_log(project_id, change_id);
CREATE INDEX change_log_client ON change_log(project_id, client, revision);

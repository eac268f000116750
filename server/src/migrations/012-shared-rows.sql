-- Accounts, code sets, roles, resources and crews that are kept for all projects, as shared calendars are.
CREATE TABLE shared_rows (
  kind TEXT NOT NULL,
  id TEXT NOT NULL,
  content TEXT NOT NULL,
  previous TEXT,
  revision INTEGER NOT NULL,
  changed_at TEXT NOT NULL,
  changed_by TEXT NOT NULL,
  PRIMARY KEY (kind, id)
) WITHOUT ROWID;

ALTER TABLE code_sets ADD COLUMN shared_id TEXT;

-- What a project is: only live ones count where resources are asked for over projects.
ALTER TABLE project_settings ADD COLUMN stage TEXT NOT NULL DEFAULT 'live';

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

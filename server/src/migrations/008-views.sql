-- Computed fields, and what is kept of how the plan is seen.
ALTER TABLE own_fields ADD COLUMN key TEXT NOT NULL DEFAULT '';
ALTER TABLE own_fields ADD COLUMN sum TEXT NOT NULL DEFAULT 'same';
ALTER TABLE own_fields ADD COLUMN expression TEXT NOT NULL DEFAULT '';

CREATE TABLE looks (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  about TEXT NOT NULL,
  rules TEXT NOT NULL,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

CREATE TABLE saved_views (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  about TEXT NOT NULL,
  settings TEXT NOT NULL,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

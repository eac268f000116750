-- Pictures of a project: its logo, and signs on milestones. What they hold lies in contents, by its hash.
CREATE TABLE pictures (
  project_id TEXT NOT NULL REFERENCES projects (id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  size INTEGER NOT NULL,
  hash TEXT NOT NULL,
  type TEXT NOT NULL,
  width INTEGER NOT NULL,
  height INTEGER NOT NULL,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;
ALTER TABLE project_settings ADD COLUMN logo_id TEXT;
ALTER TABLE activities ADD COLUMN picture_id TEXT;
-- A bar look of its own.
ALTER TABLE activities ADD COLUMN look_id TEXT;

-- Code sets and fields that people have made; what activities have of them lies in their "values".
CREATE TABLE code_sets (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  about TEXT NOT NULL,
  "values" TEXT NOT NULL,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

CREATE TABLE own_fields (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  about TEXT NOT NULL,
  kind TEXT NOT NULL,
  unit TEXT NOT NULL,
  choices TEXT NOT NULL,
  standard TEXT,
  required TEXT NOT NULL,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

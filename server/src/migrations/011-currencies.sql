-- Other currencies with the rate that was fixed, and expenses that are told in one.
CREATE TABLE currencies (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  rate REAL NOT NULL,
  as_of TEXT NOT NULL,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

ALTER TABLE expenses ADD COLUMN currency_id TEXT;
ALTER TABLE expenses ADD COLUMN foreign_budget REAL;

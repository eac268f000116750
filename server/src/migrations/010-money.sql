-- Accounts, and the expenses and income of activities.
CREATE TABLE accounts (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  parent_id TEXT,
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  shared_id TEXT,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, parent_id) REFERENCES accounts(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX accounts_parent ON accounts(project_id, parent_id);

CREATE TABLE expenses (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  activity_id TEXT NOT NULL,
  name TEXT NOT NULL,
  account_id TEXT,
  income TEXT NOT NULL,
  budget REAL NOT NULL,
  committed REAL NOT NULL,
  actual REAL,
  remaining REAL,
  "when" TEXT NOT NULL,
  date TEXT,
  quantity REAL,
  price REAL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, activity_id) REFERENCES activities(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, account_id) REFERENCES accounts(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX expenses_activity ON expenses(project_id, activity_id);
CREATE INDEX expenses_account ON expenses(project_id, account_id);

ALTER TABLE roles ADD COLUMN account_id TEXT;
ALTER TABLE resources ADD COLUMN account_id TEXT;
ALTER TABLE assignments ADD COLUMN account_id TEXT;

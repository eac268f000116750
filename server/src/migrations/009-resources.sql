-- Who and what does the work: resources in groups, roles, crews, assignments; and what of an activity depends on them.
ALTER TABLE activities ADD COLUMN basis TEXT NOT NULL DEFAULT 'fixedDuration';
ALTER TABLE activities ADD COLUMN keeps_days TEXT NOT NULL DEFAULT 'false';
ALTER TABLE activities ADD COLUMN quantity REAL;
ALTER TABLE activities ADD COLUMN quantity_unit TEXT NOT NULL DEFAULT '';
ALTER TABLE activities ADD COLUMN rate REAL;
ALTER TABLE activities ADD COLUMN crews REAL NOT NULL DEFAULT 1;
ALTER TABLE activities ADD COLUMN responsible TEXT NOT NULL DEFAULT '';

CREATE TABLE resource_groups (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  parent_id TEXT,
  name TEXT NOT NULL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, parent_id) REFERENCES resource_groups(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX resource_groups_parent ON resource_groups(project_id, parent_id);

CREATE TABLE roles (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  about TEXT NOT NULL,
  colour TEXT,
  availability TEXT NOT NULL,
  rates TEXT NOT NULL,
  per_use REAL NOT NULL,
  shared_id TEXT,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

CREATE TABLE resources (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  kind TEXT NOT NULL,
  group_id TEXT,
  role_id TEXT,
  other_roles TEXT NOT NULL,
  calendar_id TEXT,
  days_off TEXT NOT NULL,
  availability TEXT NOT NULL,
  rates TEXT NOT NULL,
  prices TEXT NOT NULL,
  per_use REAL NOT NULL,
  unit TEXT NOT NULL,
  mail TEXT NOT NULL,
  phone TEXT NOT NULL,
  colour TEXT,
  notes TEXT NOT NULL,
  "values" TEXT NOT NULL,
  shared_id TEXT,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, group_id) REFERENCES resource_groups(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, role_id) REFERENCES roles(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, calendar_id) REFERENCES calendars(project_id, id) DEFERRABLE INITIALLY DEFERRED
) WITHOUT ROWID;
CREATE INDEX resources_group ON resources(project_id, group_id);
CREATE INDEX resources_role ON resources(project_id, role_id);
CREATE INDEX resources_calendar ON resources(project_id, calendar_id);

CREATE TABLE crews (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  name TEXT NOT NULL,
  about TEXT NOT NULL,
  lines TEXT NOT NULL,
  shared_id TEXT,
  PRIMARY KEY (project_id, id)
) WITHOUT ROWID;

CREATE TABLE assignments (
  project_id TEXT NOT NULL REFERENCES projects(id) ON DELETE CASCADE,
  id TEXT NOT NULL,
  rank REAL NOT NULL,
  activity_id TEXT NOT NULL,
  resource_id TEXT,
  role_id TEXT,
  units REAL NOT NULL CHECK (units > 0),
  work INTEGER NOT NULL CHECK (work >= 0),
  quantity REAL NOT NULL CHECK (quantity >= 0),
  quantity_per REAL,
  delay INTEGER NOT NULL CHECK (delay >= 0),
  spread TEXT NOT NULL,
  own_spread TEXT NOT NULL,
  drives TEXT NOT NULL,
  actual_work INTEGER,
  remaining_work INTEGER,
  actual_quantity REAL,
  remaining_quantity REAL,
  actual_cost REAL,
  PRIMARY KEY (project_id, id),
  FOREIGN KEY (project_id, activity_id) REFERENCES activities(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, resource_id) REFERENCES resources(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (project_id, role_id) REFERENCES roles(project_id, id) DEFERRABLE INITIALLY DEFERRED,
  CHECK ((resource_id IS NULL) <> (role_id IS NULL))
) WITHOUT ROWID;
CREATE INDEX assignments_activity ON assignments(project_id, activity_id);
CREATE INDEX assignments_resource ON assignments(project_id, resource_id);
CREATE INDEX assignments_role ON assignments(project_id, role_id);

-- Calendars kept for all projects. A project that uses one has its own copy in `calendars`, which names it.
CREATE TABLE shared_calendars (
  id TEXT PRIMARY KEY,
  content TEXT NOT NULL,
  -- What it was before the last change, so that the change can be put back.
  previous TEXT,
  revision INTEGER NOT NULL,
  changed_at TEXT NOT NULL,
  changed_by TEXT NOT NULL
);
ALTER TABLE calendars ADD COLUMN shared_id TEXT;
CREATE INDEX calendars_shared ON calendars(shared_id) WHERE shared_id IS NOT NULL;

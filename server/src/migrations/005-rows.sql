-- What an activity has of its own beside its dates, and WBS nodes that are shown as one row.
ALTER TABLE activities ADD COLUMN priority INTEGER NOT NULL DEFAULT 5;
ALTER TABLE activities ADD COLUMN colour TEXT;
ALTER TABLE activities ADD COLUMN address TEXT NOT NULL DEFAULT '';
ALTER TABLE activities ADD COLUMN hidden TEXT NOT NULL DEFAULT 'false';
ALTER TABLE wbs ADD COLUMN lane TEXT NOT NULL DEFAULT 'false';

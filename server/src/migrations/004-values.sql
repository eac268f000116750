-- Values of codes and fields of people's own: one place for all, so that none of them needs a column.
ALTER TABLE activities ADD COLUMN "values" TEXT NOT NULL DEFAULT '{}';
ALTER TABLE wbs ADD COLUMN "values" TEXT NOT NULL DEFAULT '{}';
-- Numbers are looked up for every change that gives one.
CREATE INDEX activities_code ON activities(project_id, lower(code));

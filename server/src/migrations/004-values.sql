-- Values of codes and fields of people's own: one place for all, so that none of them needs a column.
ALTER TABLE activities ADD COLUMN "values" TEXT NOT NULL DEFAULT '{}';
ALTER TABLE wbs ADD COLUMN "values" TEXT NOT NULL DEFAULT '{}';

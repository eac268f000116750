-- Fields of people's own belong to activities, WBS nodes, resources, assignments or the project.
ALTER TABLE own_fields ADD COLUMN belongs_to TEXT NOT NULL DEFAULT 'activities';
ALTER TABLE project_settings ADD COLUMN "values" TEXT NOT NULL DEFAULT '{}';
ALTER TABLE assignments ADD COLUMN "values" TEXT NOT NULL DEFAULT '{}';

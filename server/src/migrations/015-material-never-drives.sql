-- Files that did not say it gave material what counts for nothing there, and what commands refuse.
UPDATE assignments SET drives = 'false'
WHERE drives = 'true' AND EXISTS (SELECT 1 FROM resources r WHERE r.project_id = assignments.project_id AND r.id = assignments.resource_id AND r.kind = 'material');

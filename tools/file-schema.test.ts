/** The schema of the project file that is published is the one that the program reads by. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { schemaText } from './file-schema';

test('docs/project-file.schema.json is as `npm run schema` makes it', () => {
  expect(readFileSync(join(__dirname, '../docs/project-file.schema.json'), 'utf8')).toBe(schemaText());
});

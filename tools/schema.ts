/** Writes docs/project-file.schema.json: npm run schema. */
import { writeFileSync } from 'node:fs';
import { schemaText } from './file-schema.ts';

writeFileSync(new URL('../docs/project-file.schema.json', import.meta.url), schemaText());

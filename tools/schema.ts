/** Writes docs/project-file.schema.json from the Zod schemas: npm run schema. The file's form differs from the rows only in its intervals. */
import { writeFileSync } from 'node:fs';
import { z } from 'zod';
import { FILE_FORMAT, FILE_VERSION } from '@yellowhammer/core/model/file';
import {
  activitySchema,
  calendarSchema,
  codeSetSchema,
  datedNoteSchema,
  exceptionSchema,
  fileSchema,
  linkSchema,
  ownFieldSchema,
  projectSchema,
  snapshotSchema,
  wbsSchema,
} from '@yellowhammer/core/model/schema';

const interval = z
  .tuple([z.string().regex(/^\d{1,2}:\d{2}$/), z.string().regex(/^\d{1,2}:\d{2}$/)])
  .meta({ description: 'From and to as HH:MM; past 24:00 where work runs over midnight, e.g. ["20:00","28:00"].' });
const calendar = calendarSchema.extend({ week: z.array(z.array(interval)).length(7).nullable(), exceptions: z.array(exceptionSchema.extend({ work: z.array(interval) })) });
const document = z.object({
  project: projectSchema,
  calendars: z.array(calendar),
  wbs: z.array(wbsSchema),
  activities: z.array(activitySchema),
  links: z.array(linkSchema),
  datedNotes: z.array(datedNoteSchema),
  files: z.array(fileSchema),
  codeSets: z.array(codeSetSchema),
  ownFields: z.array(ownFieldSchema),
});
const file = document
  .extend({
    format: z.literal(FILE_FORMAT),
    version: z.literal(FILE_VERSION),
    snapshots: z.array(snapshotSchema),
    copies: z.record(z.string(), document),
    contents: z.record(z.string(), z.base64()).optional(),
  })
  .meta({
    title: 'Yellowhammer project file, version 1',
    description: 'As written. A reader takes less: docs/file-format.md says which fields may be left out.',
  });
writeFileSync(new URL('../docs/project-file.schema.json', import.meta.url), `${JSON.stringify(z.toJSONSchema(file, { io: 'input', unrepresentable: 'any' }), null, 1)}\n`);

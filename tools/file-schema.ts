/** The form of the project file as a JSON schema, from the Zod schemas. It differs from the rows only in its intervals. */
import { z } from 'zod';
import { FILE_FORMAT, FILE_VERSION } from '@yellowhammer/core/model/file';
import { resourceSchema } from '@yellowhammer/core/model/resource-schema';
import { calendarSchema, exceptionSchema, projectSchema, snapshotSchema } from '@yellowhammer/core/model/schema';
import { type TableName, tableNames, tables } from '@yellowhammer/core/model/tables';

const interval = z
  .tuple([z.string().regex(/^\d{1,2}:\d{2}$/), z.string().regex(/^\d{1,2}:\d{2}$/)])
  .meta({ description: 'From and to as HH:MM; past 24:00 where work runs over midnight, e.g. ["20:00","28:00"].' });
const exception = exceptionSchema.extend({ work: z.array(interval) });
/** Rows as they stand in the file, where that is not as they are. */
const inFile: Partial<Record<TableName, z.ZodType>> = {
  calendars: calendarSchema.extend({ week: z.array(z.array(interval)).length(7).nullable(), exceptions: z.array(exception) }),
  resources: resourceSchema.extend({ daysOff: z.array(exception) }),
};
const lists = tableNames.filter((t) => t !== 'project' && !tables[t].beside).map((t) => [t, z.array(inFile[t] ?? tables[t].schema)] as const);
const document = z.object({ project: projectSchema, ...Object.fromEntries(lists) });
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

/** As it lies in docs/project-file.schema.json. */
export const schemaText = (): string => `${JSON.stringify(z.toJSONSchema(file, { io: 'input', unrepresentable: 'any' }), null, 1)}\n`;

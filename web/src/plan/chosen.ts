/** What of the plan is selected, for the sections of the inspector. */
import type { Document } from '@yellowhammer/core/model/document';
import type { WbsNode } from '@yellowhammer/core/model/schema';
import { PROJECT_ROW, projectRow } from '@yellowhammer/core/outline/outline';
import type { Chosen } from '../app/panel';

export const chosenOf = (doc: Document, selected: readonly string[], onGo: Chosen['onGo']): Chosen => ({
  activities: selected.flatMap((id) => doc.activities.get(id) ?? []),
  node: selected.length !== 1 ? undefined : selected[0] === PROJECT_ROW ? (projectRow(doc) as { node: WbsNode }).node : doc.wbs.get(selected[0]!),
  onGo,
});

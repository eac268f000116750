/** What a graph on the axis of the timeline can be of, as options of a choice: on the screen and on paper. */
import type { SubjectKind } from '@yellowhammer/core/load/load';
import { type Document, ordered } from '@yellowhammer/core/model/document';

export function GraphOptions({ doc }: { doc: Document }) {
  const of = (kind: SubjectKind, title: string, rows: readonly { id: string; name: string }[]) =>
    rows.length > 0 && (
      <optgroup key={kind} label={title}>
        {rows.map((r) => (
          <option key={r.id} value={`${kind} ${r.id}`}>
            {r.name}
          </option>
        ))}
      </optgroup>
    );
  return (
    <>
      <option value="all">Everybody</option>
      <option value="flow">Money by month, in and out</option>
      <option value="curve">Cost up to each day, early and late</option>
      {of('group', 'Groups', ordered(doc, 'resourceGroups'))}
      {of('resource', 'Resources', ordered(doc, 'resources'))}
      {of('role', 'Roles', ordered(doc, 'roles'))}
      {of('crew', 'Crews', ordered(doc, 'crews'))}
    </>
  );
}

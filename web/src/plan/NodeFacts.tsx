import { builtIn, cellOf, fieldOf } from '@yellowhammer/core/fields/list';
import { showField } from '@yellowhammer/core/fields/field';
import { wbsCodeOf } from '@yellowhammer/core/outline/outline';
import { ownKey } from '@yellowhammer/core/model/values';
import { OwnValues } from '../app/OwnValues';
import type { Chosen } from '../app/panel';
import { useSession } from '../project/hooks';

/** Fields that a WBS node is told by its heading already. */
const told = new Set(['code', 'name', 'notes']);

/** What is rolled up to a WBS node: every field of the list that nodes have. */
export function NodeFacts({ node }: Chosen) {
  const session = useSession();
  const { doc, view } = session;
  if (!node) return null;
  const r = view?.rollups.get(node.id);
  const cell = cellOf({ doc, view, baseline: session.baseline, clock: false }, { kind: 'wbs', id: node.id, depth: 0, node, code: wbsCodeOf(doc, node.id) });
  const facts = builtIn.flatMap((f) => {
    const text = told.has(f.key) || !f.of.includes('wbs') ? '' : showField(f, cell);
    return text ? [[f.title, f.kind === 'money' && doc.project.get('project')?.currency ? `${text} ${doc.project.get('project')?.currency}` : text] as const] : [];
  });
  return (
    <>
      <h2>{node.name || 'WBS node'}</h2>
      {facts.length && r?.activities ? (
        <dl className="facts">
          {facts.map(([title, text]) => (
            <div key={title} className="fact">
              <dt>{title === 'Duration' ? 'Working duration' : title}</dt>
              <dd>{text}</dd>
            </div>
          ))}
          <div className="fact">
            <dt>Activities</dt>
            <dd>{r.activities}</dd>
          </div>
        </dl>
      ) : (
        <p className="muted">Nothing in it yet. Enter adds an activity.</p>
      )}
    </>
  );
}

/** Fields of people's own that the node has; an empty one has what the node above has, which is told in it. */
export function NodeFields({ node }: Chosen) {
  const session = useSession();
  const { doc, view } = session;
  if (!node) return null;
  const above = node.parentId === null ? undefined : doc.wbs.get(node.parentId);
  return (
    <div className="detail-grid">
      <OwnValues
        of="wbs"
        row={node}
        inherited={(f) => {
          const field = above && fieldOf(doc, ownKey(f.id));
          return field ? showField(field, cellOf({ doc, view, baseline: null, clock: false }, { kind: 'wbs', id: above.id, depth: 0, node: above, code: '' })) : '';
        }}
      />
    </div>
  );
}

/** Parts of the network: its links, and the input in which a box is edited. */
import type { Link } from '@yellowhammer/core/model/schema';
import { boxWidth, type Placed } from '@yellowhammer/core/view/boxes';

export function BoxEditor({
  edit,
  place,
  at,
  zoom,
  text,
  onCommit,
  onNext,
  onCancel,
}: {
  edit: { id: string; field: 'name' | 'duration'; error: string | null };
  place: Placed;
  at: { x: number; y: number };
  zoom: number;
  text: string;
  onCommit: (text: string) => void;
  onNext: () => void;
  onCancel: () => void;
}) {
  const b = place.boxes.get(edit.id);
  if (!b) return null;
  return (
    <div className="network-edit" style={{ left: (b.x - at.x) * zoom, top: (b.y - at.y) * zoom, width: Math.max(150, boxWidth * zoom) }}>
      <input
        autoFocus
        aria-label={edit.field === 'name' ? 'Name' : 'Duration'}
        defaultValue={text}
        onFocus={(e) => e.target.select()}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') onCommit(e.currentTarget.value);
          if (e.key === 'Escape') onCancel();
          if (e.key === 'Tab') {
            e.preventDefault();
            onCommit(e.currentTarget.value);
            onNext();
          }
        }}
      />
      {edit.error && <span role="alert">{edit.error}</span>}
    </div>
  );
}

/** Links from the end of one box to the beginning of the other; those of other types leave and arrive at the ends that they mean. */
export function NetworkLinks({
  placed,
  links,
  boxHeight,
  inView,
  driving,
  critical,
}: {
  placed: Placed;
  links: readonly Link[];
  boxHeight: number;
  inView: (b: { x: number; y: number }) => boolean;
  driving: (l: Link) => boolean;
  critical: (id: string) => boolean;
}) {
  return (
    <g className="network-links">
      {links.map((l) => {
        const [a, b] = [placed.boxes.get(l.from), placed.boxes.get(l.to)];
        if (!a || !b || !(inView(a) || inView(b))) return null;
        const x1 = l.type[0] === 'F' ? a.x + boxWidth : a.x;
        const x2 = l.type[1] === 'S' ? b.x : b.x + boxWidth;
        const [y1, y2] = [a.y + boxHeight / 2, b.y + boxHeight / 2];
        const bend = Math.max(20, Math.min(60, Math.abs(x2 - x1) / 2));
        const out = l.type[0] === 'F' ? bend : -bend;
        const into = l.type[1] === 'S' ? -bend : bend;
        const drives = driving(l);
        return (
          <g key={l.id}>
            <path
              className={`network-link${drives ? ' driving' : ''}${drives && critical(l.from) && critical(l.to) ? ' critical' : ''}`}
              d={`M${x1} ${y1}C${x1 + out} ${y1} ${x2 + into} ${y2} ${x2} ${y2}`}
              data-link={l.id}
            />
            <path className="network-arrow" d={`M${x2} ${y2}l${into < 0 ? -6 : 6} -3v6z`} />
            {(l.type !== 'FS' || l.lag !== 0) && (
              <text className="network-type" x={(x1 + x2) / 2} y={(y1 + y2) / 2 - 3} textAnchor="middle">
                {l.type}
                {l.lag !== 0 && (l.lag > 0 ? '+' : '−')}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

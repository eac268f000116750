/** Links that a command is about to make or take away, on top of those of the plan: which may be, and why not. */
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf } from '../model/document.ts';
import type { Link } from '../model/schema.ts';
import { type Outcome, refused } from './result.ts';

const none: readonly Link[] = [];
const noIds: ReadonlySet<string> = new Set();

export class LinkPlan {
  readonly made: Link[] = [];
  private readonly into = new Map<string, Link[]>();
  private readonly outOf = new Map<string, Link[]>();
  readonly doc: Document;
  /** Links of the plan that are taken away with the same act. */
  readonly gone: ReadonlySet<string>;

  constructor(doc: Document, gone: ReadonlySet<string> = noIds) {
    this.doc = doc;
    this.gone = gone;
  }

  add(link: Link): void {
    this.made.push(link);
    for (const [map, id] of [
      [this.into, link.to],
      [this.outOf, link.from],
    ] as const) {
      const list = map.get(id);
      if (list) list.push(link);
      else map.set(id, [link]);
    }
  }

  /** Calls back for each activity at the other end of a link. */
  private each(id: string, side: 'into' | 'outOf', f: (other: string) => void): void {
    const index = indexOf(this.doc);
    const end = side === 'into' ? 'from' : 'to';
    for (const l of side === 'into' ? index.linksInto(id) : index.linksOutOf(id)) if (!this.gone.has(l.id)) f(l[end]);
    for (const l of this[side].get(id) ?? none) f(l[end]);
  }

  /**
   * The activities from one to another along links, in order; undefined where there is no way. Looks from both ends, the
   * smaller side first, so that it ends as soon as one side has nowhere to go on.
   */
  path(from: string, to: string): string[] | undefined {
    const before = new Map<string, string>([[from, '']]);
    const after = new Map<string, string>([[to, '']]);
    let [front, back] = [[from], [to]];
    let meeting = from === to ? from : undefined;
    while (meeting === undefined && front.length && back.length) {
      const forward = front.length <= back.length;
      const [own, other] = forward ? [before, after] : [after, before];
      const wave: string[] = [];
      for (const id of forward ? front : back)
        this.each(id, forward ? 'outOf' : 'into', (next) => {
          if (own.has(next)) return;
          own.set(next, id);
          if (other.has(next)) meeting ??= next;
          wave.push(next);
        });
      if (forward) front = wave;
      else back = wave;
    }
    if (meeting === undefined) return undefined;
    const path = [meeting];
    for (let at = before.get(meeting); at; at = before.get(at)) path.unshift(at);
    for (let at = after.get(meeting); at; at = after.get(at)) path.push(at);
    return path;
  }

  /** The activities of the loop that a link would close, from its successor round to it again. */
  loop(link: Pick<Link, 'from' | 'to'>): string[] | undefined {
    const path = this.path(link.to, link.from);
    return path && [...path, link.to];
  }

  isLinked(link: Pick<Link, 'from' | 'to' | 'type'>): boolean {
    return this.same(link) !== undefined;
  }

  /** The link of the same type between the same two. */
  same(link: Pick<Link, 'from' | 'to' | 'type'>): Link | undefined {
    const alike = (l: Link): boolean => l.from === link.from && l.to === link.to && l.type === link.type;
    // A link that is changed is gone as it was and there as it will be, under one id.
    const stays = indexOf(this.doc)
      .linksInto(link.to)
      .find((l) => alike(l) && !this.gone.has(l.id));
    return stays ?? (this.into.get(link.to) ?? none).find(alike);
  }

  /** Why a link may not be there: itself, a margin's type, a second one, or a loop (named in order). Undefined if it may. */
  refusal(link: Pick<Link, 'from' | 'to' | 'type'>): (Outcome & { ok: false; loop?: string[] }) | undefined {
    const a = this.doc.activities.get(link.from);
    const b = this.doc.activities.get(link.to);
    if (!a || !b) return refused('UNKNOWN_ACTIVITY', 'An activity of that link is not in the plan any more.');
    const where = { table: 'activities', id: b.id, label: labelOf(b) };
    if (a === b) return refused('LOOP', `${labelOf(a)} cannot be linked to itself.`, where);
    if (link.type !== 'FS' && (a.type === 'margin' || b.type === 'margin'))
      return refused('MARGIN_LINK', `Into and out of a margin only finish-to-start counts, so ${a.code} to ${b.code} cannot be ${link.type}.`, where);
    if (this.isLinked(link)) return refused('DUPLICATE_LINK', `${a.code} and ${b.code} are already linked ${link.type}. Change the lag of that link instead.`, where);
    const loop = this.loop(link);
    if (!loop) return undefined;
    const names = loop.map((id) => this.doc.activities.get(id)?.code ?? id);
    return { ...refused('LOOP', `Linking ${a.code} to ${b.code} would close a loop: ${names.join(' > ')}. Delete one of the links between them first.`, where), loop };
  }
}

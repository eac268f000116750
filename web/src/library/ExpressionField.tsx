/** The expression of a computed field: completed as it is typed, checked at once, tried on an activity before it is taken over. */
import { Textarea } from '@mantine/core';
import { useMemo, useRef, useState } from 'react';
import { expressionError } from '@yellowhammer/core/commands/own-fields';
import { compileExpression } from '@yellowhammer/core/expr/compile';
import { functions } from '@yellowhammer/core/expr/functions';
import { failed, kindOfType, typeWords } from '@yellowhammer/core/expr/types';
import { textOf } from '@yellowhammer/core/fields/field';
import { activityCell, fieldsOf } from '@yellowhammer/core/fields/list';
import { askable, namesOf } from '@yellowhammer/core/fields/own';
import { fieldNamed } from '@yellowhammer/core/commands/own-fields';
import { labelOf, ordered } from '@yellowhammer/core/model/document';
import type { OwnField } from '@yellowhammer/core/model/schema';
import { useDoc, useSession } from '../project/hooks';

/** The word that is being typed at a place of a text. */
const wordAt = (text: string, at: number): string => /[A-Za-z][A-Za-z0-9]*$/.exec(text.slice(0, at))?.[0] ?? '';

export function ExpressionField({ field: f, onCommit }: { field: OwnField; onCommit: (text: string) => string | null }) {
  const session = useSession();
  const { doc } = useDoc();
  const [text, setText] = useState(f.expression);
  const [at, setAt] = useState(0);
  const [told, setTold] = useState<string | null>(null);
  const box = useRef<HTMLTextAreaElement>(null);
  const [chosen, setChosen] = useState(0);
  const word = wordAt(text, at);
  const offers = useMemo(() => {
    const fields = askable([...fieldsOf(doc).values()], [...doc.ownFields.values()]).filter((x) => x.name !== f.key);
    const sets = ordered(doc, 'codeSets').map((s) => ({ name: `code("${s.name}")`, title: s.name, about: 'a text: the short name of its value' }));
    const fs = Object.entries(functions).map(([name, x]) => ({ name: `${name}(`, title: x.form, about: x.about }));
    const words = ['dataDate', 'projectFinish', 'yes', 'no', 'empty', 'and', 'or', 'not'].map((name) => ({ name, title: name, about: '' }));
    return [...fields, ...sets, ...fs, ...words];
  }, [doc, f.key]);
  const low = word.toLowerCase();
  const fitting = word.length < 1 ? [] : offers.filter((o) => o.name.toLowerCase().startsWith(low) || o.title.toLowerCase().includes(low)).slice(0, 8);
  const open = fitting.length > 0 && !(fitting.length === 1 && fitting[0]!.name === word);
  const error = text.trim() === '' ? null : (expressionError(doc, { ...f, expression: text }) ?? null);
  const sample = useMemo(() => {
    if (error || text.trim() === '') return null;
    const compiled = compileExpression(
      text,
      namesOf(doc, (name) => fieldNamed(doc, name)),
    );
    if ('error' in compiled) return null;
    const context = { doc, view: session.view, baseline: session.baseline, clock: false };
    // The first activities that have a value.
    const rows = ordered(doc, 'activities')
      .slice(0, 400)
      .flatMap((a) => {
        const cell = activityCell(context, a);
        const v = compiled.run(cell);
        if (v === null) return [];
        const kind = kindOfType(compiled.type);
        return [`${labelOf(a)}: ${failed(v) ? `(${v.reason})` : textOf({ kind, end: compiled.end } as Parameters<typeof textOf>[0], v, cell)}`];
      });
    return { type: typeWords[compiled.type], rows: rows.slice(0, 4), none: rows.length === 0 };
  }, [text, error, doc, session]);
  const take = (name: string): void => {
    const from = at - word.length;
    const next = text.slice(0, from) + name + text.slice(at);
    setText(next);
    setAt(from + name.length);
    setChosen(0);
    requestAnimationFrame(() => {
      box.current?.focus();
      box.current?.setSelectionRange(from + name.length, from + name.length);
    });
  };
  const commit = (): void => setTold(text === f.expression ? null : onCommit(text.trim()));
  return (
    <section className="expression" aria-label="Expression">
      <Textarea
        ref={box}
        label="Expression"
        description={'From fields of the same row: if(cost > budget, "over budget", ""). Ctrl+Enter takes it over.'}
        autosize
        minRows={2}
        value={text}
        error={error ?? told}
        aria-autocomplete="list"
        onChange={(e) => {
          setText(e.currentTarget.value);
          setAt(e.currentTarget.selectionStart);
          setTold(null);
        }}
        onSelect={(e) => setAt(e.currentTarget.selectionStart)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
            e.preventDefault();
            commit();
          } else if (open && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
            e.preventDefault();
            setChosen((n) => (n + (e.key === 'ArrowDown' ? 1 : fitting.length - 1)) % fitting.length);
          } else if (open && e.key === 'Tab' && !e.shiftKey) {
            e.preventDefault();
            take((fitting[chosen] ?? fitting[0]!).name);
          } else if (e.key === 'Escape') setAt(0);
        }}
      />
      {open && (
        <ul className="offers" aria-label="What fits">
          {fitting.map((o, i) => (
            <li key={o.name}>
              <button type="button" tabIndex={-1} className={i === chosen ? 'on' : ''} onMouseDown={(e) => e.preventDefault()} onClick={() => take(o.name)}>
                <b>{o.name}</b> <span className="muted">{o.title === o.name ? o.about : `${o.title}${o.about ? `, ${o.about}` : ''}`}</span>
              </button>
            </li>
          ))}
          <li className="muted">Tab takes it</li>
        </ul>
      )}
      <div className="library-actions">
        <button type="button" className="dark-button" disabled={error !== null || text.trim() === f.expression} onClick={commit}>
          Take it over
        </button>
        {text !== f.expression && (
          <button type="button" className="link-button" onClick={() => setText(f.expression)}>
            As it was
          </button>
        )}
      </div>
      {sample && (
        <p className="muted">
          It gives {sample.type}. {sample.none ? 'No activity has a value yet.' : sample.rows.join('; ')}
        </p>
      )}
    </section>
  );
}

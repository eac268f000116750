/** From a document to its schedule. */
import type { Document } from '../model/document.ts';
import type { Problem } from '../model/problem.ts';
import { assignmentProblems } from '../load/check.ts';
import { checkNetwork } from './check-network.ts';
import { type Computed, computeNetwork } from './compute.ts';
import type { NetworkMemory } from './memory.ts';
import { prepare } from './prepare.ts';

/** Milliseconds of whatever clock there is, for telling where time goes. */
const now = (): number => (globalThis as { performance?: { now(): number } }).performance?.now() ?? 0;

export interface Schedule {
  /** Undefined where nothing could be computed. */
  computed?: Computed;
  problems: Problem[];
}

/** Dates first: what is shown. `check` then finds what the dates show to be wrong, for whoever waits for it. */
export function scheduleDates(
  doc: Document,
  memory?: NetworkMemory,
  took: (part: 'network' | 'passes', milliseconds: number) => void = () => undefined,
): Schedule & { check: () => Problem[] } {
  const from = now();
  const { network, problems } = prepare(doc, memory);
  took('network', now() - from);
  if (!network) return { problems, check: () => problems };
  const middle = now();
  const computed = computeNetwork(network);
  took('passes', now() - middle);
  return { computed, problems, check: () => [...problems, ...checkNetwork(computed), ...assignmentProblems(doc, computed)] };
}

/** The schedule of a document: the one function that computes dates in the whole product. */
export function schedule(doc: Document, memory?: NetworkMemory): Schedule {
  const { computed, check } = scheduleDates(doc, memory);
  return computed ? { computed, problems: check() } : { problems: check() };
}

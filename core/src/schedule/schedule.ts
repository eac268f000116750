/** From a document to its schedule. */
import type { Document } from '../model/document.ts';
import type { Problem } from '../model/problem.ts';
import { checkNetwork } from './check-network.ts';
import { type Computed, computeNetwork } from './compute.ts';
import type { NetworkMemory } from './memory.ts';
import { prepare } from './prepare.ts';

export interface Schedule {
  /** Undefined where nothing could be computed. */
  computed?: Computed;
  problems: Problem[];
}

/** Dates first: what is shown. `check` then finds what the dates show to be wrong, for whoever waits for it. */
export function scheduleDates(doc: Document, memory?: NetworkMemory): Schedule & { check: () => Problem[] } {
  const { network, problems } = prepare(doc, memory);
  if (!network) return { problems, check: () => problems };
  const computed = computeNetwork(network);
  return { computed, problems, check: () => [...problems, ...checkNetwork(computed)] };
}

/** The schedule of a document: the one function that computes dates in the whole product. */
export function schedule(doc: Document, memory?: NetworkMemory): Schedule {
  const { computed, check } = scheduleDates(doc, memory);
  return computed ? { computed, problems: check() } : { problems: check() };
}

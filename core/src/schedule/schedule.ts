/** From a document to its schedule. */
import type { Document } from '../model/document.ts';
import type { Problem } from '../model/problem.ts';
import { checkNetwork } from './check-network.ts';
import { type Computed, computeNetwork } from './compute.ts';
import { prepare } from './prepare.ts';

export interface Schedule {
  /** Undefined where nothing could be computed. */
  computed?: Computed;
  problems: Problem[];
}

/** The schedule of a document: the one function that computes dates in the whole product. */
export function schedule(doc: Document): Schedule {
  const { network, problems } = prepare(doc);
  if (!network) return { problems };
  const computed = computeNetwork(network);
  return { computed, problems: [...problems, ...checkNetwork(doc, computed)] };
}

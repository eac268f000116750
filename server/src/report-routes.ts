import type { Express } from 'express';
import type { Store } from './store.ts';
export function reportRoutes(_app: Express, _store: Store): void {}

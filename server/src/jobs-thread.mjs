/** Where a worker thread begins: it learns to read TypeScript, as the main thread has by its command line. */
import { register } from 'tsx/esm/api';

register();
await import('./jobs-worker.ts');

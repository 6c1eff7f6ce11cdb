import * as copies from './copies';
import * as drafts from './drafts';
import * as files from './files';
import * as links from './links';
import * as masters from './masters';
import * as placed from './placed';
import * as sidecars from './sidecars';
import * as solids from './solids';

/** Everything that runs in worker threads, by name: each takes the thread's engine and what can cross to it. */
export const TASKS = { ...drafts, ...masters, ...copies, ...files, ...links, ...sidecars, ...solids, ...placed };
export type Tasks = typeof TASKS;

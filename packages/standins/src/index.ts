import { runCutter } from './cutter';
import type { RunReport } from './report';
import { runNeedle } from './needle';
import { runRouter } from './router';

export { OLDER_READERS } from './older/drawing';
export type { Seen, SeenLine, SeenText } from './older/seen';
export type { Alarm, RunReport } from './report';

/** The machines that stand on the bench, by their names. */
export const BENCH: Readonly<Record<string, (bytes: Uint8Array) => RunReport>> = {
  cutter: runCutter,
  router: runRouter,
  needle: runNeedle,
};

/** A running cluster (postgres.mjs). */
export interface RunningPostgres {
  /** For the application, for migrations, and for setting things up. */
  readonly url: string;
  readonly owner: string;
  readonly admin: string;
  readonly folder: string;
  readonly pid: () => number;
  readonly ended: () => Promise<void>;
  readonly again: () => Promise<void>;
  readonly stop: () => void;
}
export function startPostgres(folder: string, options?: { fast?: boolean }): Promise<RunningPostgres>;
/** A port of loopback that nobody listens on. */
export function freePort(): Promise<number>;

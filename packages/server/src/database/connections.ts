import type { Database } from './database';

/** Connections that each part of a process takes at most: few, so that servers and workers fit beside each other. */
export const CONNECTIONS = { server: 6, worker: 3, thread: 2, listener: 1 } as const;
/** Threads: of a server, for what someone waits for and for steps; of a worker. */
export const THREADS = { server: 2, journal: 2, worker: 2 } as const;

/** What a whole process takes at most. */
const TAKES = {
  server: CONNECTIONS.server + CONNECTIONS.listener + CONNECTIONS.thread * (THREADS.server + THREADS.journal),
  worker: CONNECTIONS.worker + CONNECTIONS.listener + CONNECTIONS.thread * THREADS.worker,
} as const;

/** @returns words where what this process takes does not fit beside what is in use; null where it does */
export async function connectionsInWords(database: Database, kind: keyof typeof TAKES): Promise<string | null> {
  const [row] = await database.rows<{ most: number; used: number }>(
    `select current_setting('max_connections')::integer - current_setting('superuser_reserved_connections')::integer as most,
            (select count(*)::integer from pg_stat_activity where backend_type = 'client backend') as used`,
  );
  const { most, used } = row!;
  if (used + TAKES[kind] <= most) return null;
  return (
    `The database allows ${most} connections and ${used} are in use; this ${kind} takes up to ${TAKES[kind]}, ` +
    `so that some may be refused. Run fewer workers, or raise max_connections.`
  );
}

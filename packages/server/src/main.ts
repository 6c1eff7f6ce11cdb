import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pino } from 'pino';
import { createApp } from './app';
import { connectionsInWords } from './database/connections';
import { Workshop } from './workshop';

/** Parts of the demo that follow while one looks at the first. */
const LATER = ['tables', 'solids', 'texts', 'pictures', 'machines', 'small'] as const;
/** How often loading them is tried before the next start. */
const TRIES = 20;

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set. Start the server with: npm start`);
  return value;
};

async function main(): Promise<void> {
  const log = pino({ level: process.env['INKWELL_LOG'] ?? 'warn' });
  const port = Number(need('INKWELL_PORT'));
  const workshop = new Workshop(
    {
      database: need('INKWELL_DATABASE'),
      shelf: need('INKWELL_SHELF'),
      uploads: process.env['INKWELL_UPLOADS'] ?? join(tmpdir(), `inkwell-uploads-${process.pid}`),
      bench: process.env['INKWELL_BENCH'] ?? join(dirname(need('INKWELL_SHELF')), 'bench'),
      works: process.env['INKWELL_WORKS'] === 'yes',
    },
    (what, error) => log.error({ err: error }, what),
  );
  const demo = process.env['INKWELL_DEMO'];
  if (demo) await workshop.loadDemo(['drawings']);
  const server = createApp(workshop, process.env['INKWELL_WEB'] ?? null).listen(port, '127.0.0.1', () => {
    console.log(`· Inkwell Twin is ready at http://127.0.0.1:${port}  (Ctrl-C stops it)`);
    console.log(`· The shelf is ${workshop.shelf.root}`);
    connectionsInWords(workshop.database, 'server').then(
      (words) => words && console.log(`· ${words}`),
      () => undefined,
    );
    workshop
      .open()
      .then(() => (demo === 'yes' ? workshop.loadDemo(LATER, TRIES) : undefined))
      .catch((error) => log.error({ err: error }, 'opening the shelf'));
  });
  // Longer than any browser keeps one that rests: it closes it, and never sends into one that we closed in that moment.
  server.keepAliveTimeout = 330_000;
  // Bodies that trickle are cut off.
  server.headersTimeout = 15_000;
  server.requestTimeout = 150_000;
  server.on('error', (error) => {
    console.error(`The server can't listen on port ${port}: ${error.message}`);
    process.exit(1);
  });
  const stop = () => {
    server.closeAllConnections();
    server.close(() => void workshop.close().finally(() => process.exit(0)));
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Started by npm start, the server does not outlive it.
  process.on('disconnect', stop);
}

main().catch((error) => {
  console.error(`Inkwell Twin can't start: ${(error as Error).message}`);
  process.exit(1);
});

import { pino } from 'pino';
import { createApp } from './app';
import { migrate } from './database/database';
import { loadDemo } from './setup/load-demo';
import { Workshop } from './workshop';

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set. Start the server with: npm start`);
  return value;
};

async function main(): Promise<void> {
  const log = pino({ level: process.env['INKWELL_LOG'] ?? 'warn' });
  const port = Number(need('INKWELL_PORT'));
  const workshop = new Workshop(need('INKWELL_DATABASE'), need('INKWELL_SHELF'), (what, error) =>
    log.error({ err: error }, what),
  );
  await migrate(workshop.database);
  if (process.env['INKWELL_DEMO']) await loadDemo(workshop);
  const server = createApp(workshop, process.env['INKWELL_WEB'] ?? null).listen(port, '127.0.0.1', () => {
    console.log(`· Inkwell Twin is ready at http://127.0.0.1:${port}  (Ctrl-C stops it)`);
    console.log(`· The shelf is ${workshop.shelf.root}`);
    workshop.open().catch((error) => log.error({ err: error }, 'opening the shelf'));
  });
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

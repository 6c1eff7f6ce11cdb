// Keeps PostgreSQL, the server and the workers running: one that ends by itself is started again, with growing pauses.
import { spawn } from 'node:child_process';

/** Milliseconds before each further start; one that has run for a while begins again at the first. */
const PAUSES = [300, 1_000, 3_000, 10_000, 30_000];
const RAN_WELL = 30_000;
/** Milliseconds within which what ends has never come up. */
const CAME_UP = 3_000;

const pauseAfter = (tries) => PAUSES[Math.min(tries, PAUSES.length - 1)];

export class Supervisor {
  #children = new Map();
  #database;
  #starting;
  #stopping = false;
  #say;

  constructor(say) {
    this.#say = say;
  }

  /**
   * Runs a command as long as we run.
   * @param orEnd whether all ends when it never comes up: its own line says why, and starting it again would say the same
   */
  run(name, { command, args, options }, { orEnd = false, tries = 0 } = {}) {
    if (this.#stopping) return;
    const begun = Date.now();
    const child = spawn(command, args, options);
    this.#children.set(name, child);
    child.once('exit', (code, signal) => {
      this.#children.delete(name);
      if (this.#stopping) return;
      const ran = Date.now() - begun;
      if (orEnd && tries === 0 && code && ran < CAME_UP && this.#database?.isUp !== false) return this.stop(code);
      const next = ran > RAN_WELL ? 0 : tries;
      this.#say(`${name} ended (${signal ?? `code ${code}`}); starting it again`);
      setTimeout(() => this.run(name, { command, args, options }, { orEnd, tries: next + 1 }), pauseAfter(next));
    });
  }

  /** Runs a command that ends by itself. @returns its exit code */
  async runOnce(name, { command, args, options }) {
    if (this.#stopping) return new Promise(() => undefined);
    const child = spawn(command, args, options);
    this.#children.set(name, child);
    const code = await new Promise((done) => child.once('exit', done));
    this.#children.delete(name);
    // Whatever would come next does not: everything ends.
    return this.#stopping ? new Promise(() => undefined) : code;
  }

  /** Starts PostgreSQL again whenever it ends by itself. @param starting  the one that is being started */
  async watchDatabase(starting) {
    this.#starting = starting.catch(() => undefined);
    const database = await this.#starting;
    if (database) this.#watch(database, 0);
  }

  #watch(database, tries) {
    this.#database = { stop: database.stop, isUp: true };
    const begun = Date.now();
    database.ended().then(async () => {
      if (this.#stopping) return;
      this.#database.isUp = false;
      let next = Date.now() - begun > RAN_WELL ? 0 : tries;
      this.#say('PostgreSQL ended; starting it again');
      for (;;) {
        await new Promise((done) => setTimeout(done, pauseAfter(next++)));
        if (this.#stopping) return;
        try {
          await database.again();
          return this.#watch(database, next);
        } catch (error) {
          this.#say(`PostgreSQL does not start yet: ${error.message}`);
        }
      }
    });
  }

  /** Ends everything that was started, the database last. */
  async stop(code, { silent = false } = {}) {
    if (this.#stopping) return;
    this.#stopping = true;
    await Promise.all(
      [...this.#children.values()].map((child) => {
        const ended = new Promise((done) => child.once('exit', done));
        child.kill('SIGTERM');
        const patience = setTimeout(() => child.kill('SIGKILL'), 10_000);
        return ended.then(() => clearTimeout(patience));
      }),
    );
    // One that is just being started is there in a moment.
    await this.#starting;
    this.#database?.stop();
    if (!silent) this.#say('stopped');
    process.exit(code);
  }
}

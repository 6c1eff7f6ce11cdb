import { type ChildProcess, spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from '../../../scripts/lib/postgres.mjs';
import { type Who, headersOf, until } from './harness';

const BUILT = join(__dirname, '../../../dist/node');

/** Where a process finds its data. */
interface Place {
  readonly database: string;
  readonly shelf: string;
}

/** A process of ours, as `npm start` and `npm run worker` begin them, which a test may kill. */
export class Running {
  private child: ChildProcess | undefined;

  protected constructor(
    private readonly program: 'server' | 'worker',
    private readonly env: Readonly<Record<string, string>>,
  ) {}

  static worker = ({ database, shelf }: Place): Running =>
    new Running('worker', { INKWELL_DATABASE: database, INKWELL_SHELF: shelf });

  begin(): void {
    this.child = spawn(process.execPath, [join(BUILT, `${this.program}.mjs`)], {
      stdio: 'ignore',
      env: { ...process.env, INKWELL_NICE: '0', INKWELL_LOG: 'silent', ...this.env },
    });
  }

  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await gone;
  }

  get pid(): number {
    return this.child!.pid!;
  }
}

/** What came of a request: its status and body, or that no answer came. */
type Answer<T> = { readonly status: number; readonly body: T } | { readonly status: 0; readonly body: null };

export class RunningServer extends Running {
  private constructor(
    readonly url: string,
    private readonly uploads: string,
    env: Readonly<Record<string, string>>,
  ) {
    super('server', env);
  }

  /** @param works whether it does jobs itself */
  static async on({ database, shelf }: Place, works = false): Promise<RunningServer> {
    const port = await freePort();
    const uploads = `${shelf}-uploads-${port}`;
    return new RunningServer(`http://127.0.0.1:${port}`, uploads, {
      INKWELL_DATABASE: database,
      INKWELL_SHELF: shelf,
      INKWELL_PORT: String(port),
      INKWELL_UPLOADS: uploads,
      INKWELL_BENCH: `${shelf}-bench`,
      INKWELL_WORKS: works ? 'yes' : 'no',
    });
  }

  async ask<T = Record<string, never>>(method: string, path: string, body?: unknown, who?: Who): Promise<Answer<T>> {
    try {
      const response = await fetch(this.url + path, {
        method,
        headers: { ...(who ? headersOf(who) : {}), ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      const text = await response.text();
      return { status: response.status, body: (text ? JSON.parse(text) : null) as T };
    } catch {
      return { status: 0, body: null };
    }
  }

  ready = () => until(async () => (await this.ask('GET', '/api/health')).status === 200, `an answer of ${this.url}`);

  tidy(): void {
    rmSync(this.uploads, { recursive: true, force: true });
  }
}

import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { RunReport } from './report';

/** Larger files a machine of the bench does not take, bytes. */
const LARGEST = 64 * 1024 * 1024;
/** A machine says at least so often that it is there, ms. */
const ALIVE = 3_000;

/**
 * A machine at its network folder. What lies in `holds/` it has; of each it says in `said/` what it got and whether it would run.
 * What lies in `run/` asks it to run one; how that went is in `ran/`. It knows nothing of who lays things there.
 */
export class MachineAtFolder {
  /** Size and time of each file as it was when it was looked at last. */
  private readonly looked = new Map<string, string>();
  /** Likewise as it was last said something of. */
  private readonly said = new Map<string, string>();
  private alive = 0;

  constructor(
    private readonly folder: string,
    private readonly machine: string,
    private readonly run: (bytes: Uint8Array) => RunReport,
    private readonly now: () => Date = () => new Date(),
  ) {
    for (const part of ['holds', 'said', 'run', 'ran']) mkdirSync(join(folder, part), { recursive: true });
  }

  /** Looks at the folder once. */
  look(): void {
    const time = this.now().getTime();
    if (time - this.alive >= ALIVE) {
      this.alive = time;
      this.write('machine.json', JSON.stringify({ machine: this.machine, alive: this.now().toISOString() }));
    }
    const files = this.names('holds');
    for (const file of files) this.hold(file);
    for (const word of this.names('said')) {
      const file = word.replace(/\.(json|svg)$/, '');
      if (files.includes(file)) continue;
      rmSync(join(this.folder, 'said', word), { force: true });
      this.said.delete(file);
    }
    for (const asked of this.names('run')) this.perform(asked);
  }

  private names(part: string): string[] {
    return readdirSync(join(this.folder, part)).filter((name) => !name.startsWith('.'));
  }

  /** Whole or not at all, for whoever reads it meanwhile. */
  private write(path: string, text: string): void {
    const [folder, name] = path.includes('/') ? path.split('/') : ['', path];
    const part = join(this.folder, folder!, `.${name!}.part`);
    writeFileSync(part, text);
    renameSync(part, join(this.folder, path));
  }

  private hold(file: string): void {
    const stats = statSync(join(this.folder, 'holds', file), { throwIfNoEntry: false });
    if (!stats?.isFile()) return;
    const stamp = `${stats.size} ${stats.mtimeMs}`;
    // One that is still being written is another at the next look.
    const rests = this.looked.get(file) === stamp;
    this.looked.set(file, stamp);
    if (!rests || this.said.get(file) === stamp) return;
    this.said.set(file, stamp);
    const { picture, ...report } = this.performed(file);
    this.write(`said/${file}.svg`, picture);
    this.write(`said/${file}.json`, JSON.stringify({ file, size: stats.size, time: this.now().toISOString(), ...short(report) }));
  }

  /** What the machine does with a file as it is now. */
  private performed(file: string): RunReport {
    const path = join(this.folder, 'holds', file);
    const size = statSync(path).size;
    if (size > LARGEST) return refused(this.machine, `the file has ${size} bytes, and this machine takes ${LARGEST}`);
    return this.run(readFileSync(path));
  }

  private perform(asked: string): void {
    const path = join(this.folder, 'run', asked);
    let file = '';
    let report: RunReport;
    try {
      file = String((JSON.parse(readFileSync(path, 'utf8')) as { file?: unknown }).file ?? '');
      report = this.names('holds').includes(file) ? this.performed(file) : refused(this.machine, `there is no “${file}” here`);
    } catch (error) {
      report = refused(this.machine, `what it was asked can’t be read: ${(error as Error).message}`);
    }
    rmSync(path, { force: true });
    const { picture, ...rest } = report;
    const name = asked.replace(/\.json$/, '');
    this.write(`ran/${name}.svg`, picture);
    this.write(`ran/${name}.json`, JSON.stringify({ file, time: this.now().toISOString(), ...short(rest) }));
  }
}

/** So much of a log goes along. */
const LINES = 200;
const short = (report: Omit<RunReport, 'picture'>): Omit<RunReport, 'picture'> => ({ ...report, log: report.log.slice(-LINES) });

const refused = (machine: string, words: string): RunReport => ({
  machine,
  runs: false,
  sha256: createHash('sha256').digest('hex'),
  alarms: [{ at: 0, words }],
  moves: 0,
  worked: 0,
  travelled: 0,
  seconds: 0,
  tools: [],
  extents: null,
  picture: '',
  log: [words],
});

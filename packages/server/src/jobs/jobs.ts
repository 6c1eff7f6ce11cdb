import { randomUUID } from 'node:crypto';
import { Failure, asFailure } from '@inkwell-twin/core';
import type { Events } from './events';

/** One part of a job, for instance one copy. */
export interface JobPart {
  readonly label: string;
  readonly run: () => Promise<void>;
}

interface Job {
  readonly id: string;
  readonly master: string;
  readonly label: string;
  readonly parts: readonly JobPart[];
  cancelled: boolean;
}

/**
 * Work off the request path: one job after the other, with progress and cancel. A part that fails does not stop the rest.
 * Jobs live in memory only: what they would have done is found again at the next start, because every copy is looked at then.
 */
export class Jobs {
  private readonly waiting: Job[] = [];
  private readonly known = new Map<string, Job>();
  private running: Promise<void> | null = null;
  private closed = false;

  constructor(
    private readonly events: Events,
    private readonly failed: (label: string, error: unknown) => void,
  ) {}

  start(master: string, label: string, parts: readonly JobPart[]): string {
    const job: Job = { id: randomUUID(), master, label, parts, cancelled: false };
    this.waiting.push(job);
    this.known.set(job.id, job);
    this.running ??= this.work();
    return job.id;
  }

  cancel(id: string): void {
    const job = this.known.get(id);
    if (!job) throw new Failure('not-found', 'There is no such job any more.');
    job.cancelled = true;
  }

  /** Resolves when nothing is left to do. */
  async idle(): Promise<void> {
    while (this.running) await this.running;
  }

  async close(): Promise<void> {
    this.closed = true;
    for (const job of this.known.values()) job.cancelled = true;
    await this.idle();
  }

  private async work(): Promise<void> {
    await Promise.resolve();
    for (let job = this.waiting.shift(); job; job = this.waiting.shift()) await this.runJob(job);
    this.running = null;
  }

  private async runJob(job: Job): Promise<void> {
    const total = job.parts.length;
    const failures: string[] = [];
    const tell = (done: number, state: 'running' | 'done' | 'failed' | 'cancelled', message: string) =>
      this.events.send({ kind: 'job', id: job.id, master: job.master, label: job.label, done, total, state, message });
    let done = 0;
    for (const part of job.parts) {
      if (job.cancelled || this.closed) break;
      tell(done, 'running', part.label);
      try {
        await part.run();
      } catch (error) {
        this.failed(part.label, error);
        failures.push(`${part.label}: ${asFailure(error).message}`);
      }
      done++;
    }
    this.known.delete(job.id);
    if (done < total) tell(done, 'cancelled', `Stopped after ${done} of ${total}`);
    else tell(done, failures.length ? 'failed' : 'done', failures.join(' '));
    this.events.send({ kind: 'copies', master: job.master });
  }
}

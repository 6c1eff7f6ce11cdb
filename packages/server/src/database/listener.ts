import pg from 'pg';

const PAUSES = [200, 500, 1_000, 2_000, 5_000];

/**
 * Listens to PostgreSQL's notifications on a connection of its own, and again whenever that is lost, with growing pauses.
 * What was said meanwhile is lost: `again` tells that it is time to look for oneself.
 */
export class Listener {
  private client: pg.Client | undefined;
  private timer: NodeJS.Timeout | undefined;
  private tries = 0;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly channels: Readonly<Record<string, (payload: string) => void>>,
    private readonly again: () => void = () => undefined,
  ) {}

  /** @throws what connecting throws, the first time only */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true, connectionTimeoutMillis: 5_000 });
    client.on('error', () => undefined);
    client.on('end', () => this.later());
    client.on('notification', ({ channel, payload }) => this.channels[channel]?.(payload ?? ''));
    this.client = client;
    await client.connect();
    for (const channel of Object.keys(this.channels)) await client.query(`listen ${channel}`);
    this.tries = 0;
  }

  /** A question on the same connection: what it locks stays locked as long as it lives. */
  async ask(sql: string, values: unknown[] = []): Promise<void> {
    await this.client?.query(sql, values);
  }

  private later(): void {
    if (this.closed || this.timer) return;
    this.timer = setTimeout(
      () => {
        this.timer = undefined;
        this.open().then(this.again, () => this.later());
      },
      PAUSES[Math.min(this.tries++, PAUSES.length - 1)],
    );
  }

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.timer);
    await this.client?.end().catch(() => undefined);
  }
}

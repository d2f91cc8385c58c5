import pg from 'pg';

const CHANNEL = 'emporikon_events';

export type Listener = (payload: string) => void;

/**
 * One connection that LISTENs for events of every process on this database and tells the listeners of this one. It
 * reconnects by itself; listeners are told `resync` after a gap, because notifications in between are lost.
 */
export class LiveFeed {
  private readonly listeners = new Set<Listener>();
  private client: pg.Client | null = null;
  private stopped = false;
  private retry: NodeJS.Timeout | null = null;

  constructor(private readonly url: string) {}

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    client.on('notification', (message) => this.tell(message.payload ?? '{}'));
    client.on('error', () => this.reconnect());
    client.on('end', () => this.reconnect());
    await client.connect();
    await client.query(`LISTEN ${CHANNEL}`);
    this.client = client;
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    if (this.retry) clearTimeout(this.retry);
    await this.client?.end().catch(() => undefined);
  }

  private tell(payload: string): void {
    for (const listener of this.listeners) listener(payload);
  }

  private reconnect(): void {
    if (this.stopped || this.retry) return;
    this.client = null;
    this.retry = setTimeout(() => {
      this.retry = null;
      this.start().then(
        () => this.tell('{"resync":true}'),
        () => this.reconnect(),
      );
    }, 1000);
  }
}

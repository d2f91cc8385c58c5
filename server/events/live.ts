import pg from 'pg';

const CHANNEL = 'emporikon_events';

interface Touched {
  table: string;
  id: string;
  of?: string[];
}
interface Notice {
  id?: string;
  touched?: Touched[];
  isLong?: boolean;
  /** Somebody came to this record or left it; nothing of it changed. */
  presence?: string;
}

/** A notice with who may see each of the records it names that not everybody may see. */
async function withReaders(client: pg.Client, notice: Notice): Promise<string> {
  const ids = (notice.touched ?? []).flatMap(({ id, of = [] }) => [id, ...of]);
  if (notice.presence) ids.push(notice.presence);
  const { rows } = await client.query<{ id: string; readers: string[] }>(
    `SELECT r.id, ARRAY(SELECT m.user_id FROM audience_members m WHERE m.audience_id = r.seen_by) AS readers
       FROM restricted r WHERE r.id::text = ANY ($1)`,
    [ids],
  );
  const readers = Object.fromEntries(rows.map((row) => [row.id, row.readers]));
  return JSON.stringify(rows.length ? { ...notice, readers } : notice);
}

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
  private last: Promise<void> = Promise.resolve();
  /** Since when it listens, or when it last heard of a change. */
  private heardAt = Date.now();

  constructor(private readonly url: string) {}

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    client.on('notification', (message) => void this.hear(client, message.payload ?? '{}'));
    client.on('error', () => this.reconnect());
    client.on('end', () => this.reconnect());
    await client.connect();
    await client.query(`LISTEN ${CHANNEL}`);
    this.client = client;
  }

  /** When something changed last, as far as is known; ms since 1970. */
  lastHeard(): number {
    return this.heardAt;
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

  /** Notices come in order: one that is too long for a notification is read from its event before the next is told. */
  private hear(client: pg.Client, payload: string): Promise<void> {
    const next = this.last.then(async () => {
      const notice = JSON.parse(payload) as Notice;
      if (notice.presence) return this.pass(await withReaders(client, notice));
      if (!notice.isLong) return this.tell(await withReaders(client, notice));
      const found = await client
        .query<{ touched: Touched[] }>('SELECT event_touched(changes) AS touched FROM events WHERE id = $1', [
          notice.id,
        ])
        .catch(() => null);
      // Whoever cannot be told which rows reads everything again.
      if (found?.rows[0])
        this.tell(await withReaders(client, { ...notice, isLong: undefined, ...found.rows[0] }));
      else this.tell('{"resync":true}');
    });
    // One notice that cannot be told must not keep back those after it.
    this.last = next.catch(() => this.tell('{"resync":true}')).catch(() => undefined);
    return this.last;
  }

  private tell(payload: string): void {
    this.heardAt = Date.now();
    this.pass(payload);
  }

  private pass(payload: string): void {
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

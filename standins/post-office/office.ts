import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import type { Outbox } from './outbox';

export interface OfficeOptions {
  host: string;
  /** Where mail clients hand mail in. */
  port: number;
  /** Where the program takes mail: the office relays to it, as a real mail server would. */
  relayPort: number;
  /** Domains whose mail goes to the program; what is for anybody else goes into the outbox. */
  ours: readonly string[];
  outbox: Pick<Outbox, 'keep'>;
}

export interface Office {
  port: number;
  stop(): Promise<void>;
}

/**
 * The post office: accepts a message for any address. One for our house is relayed, bytes untouched, to the program's own
 * intake, and the client is told 250 only when the program has taken it; one for somebody else is put where it can be read.
 */
export function openPostOffice({ host, port, relayPort, ours, outbox }: OfficeOptions): Promise<Office> {
  const relay = createTransport({
    host,
    port: relayPort,
    secure: false,
    ignoreTLS: true,
    pool: true,
    maxConnections: 2,
  });
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    banner: 'the post office',
    onData(stream, session, done) {
      const chunks: Buffer[] = [];
      stream.on('data', (chunk: Buffer) => chunks.push(chunk));
      stream.on('end', () => {
        const { mailFrom, rcptTo } = session.envelope;
        const raw = Buffer.concat(chunks);
        const to = rcptTo.map((one) => one.address);
        const inside = to.filter((one) => ours.includes(one.split('@').at(-1)?.toLowerCase() ?? ''));
        for (const one of to) if (!inside.includes(one)) outbox.keep(one, raw);
        if (!inside.length) return done();
        const envelope = { from: mailFrom ? mailFrom.address : '', to: inside };
        return relay.sendMail({ envelope, raw }).then(
          () => done(),
          (error: Error & { responseCode?: number }) =>
            done(Object.assign(new Error(error.message), { responseCode: error.responseCode ?? 451 })),
        );
      });
    },
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      const address = server.server.address();
      resolve({
        port: typeof address === 'object' && address ? address.port : port,
        stop: () =>
          new Promise((stopped) => {
            relay.close();
            server.close(() => stopped());
          }),
      });
    });
  });
}

import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';

export interface OfficeOptions {
  host: string;
  /** Where mail clients hand mail in. */
  port: number;
  /** Where the program takes mail: the office relays to it, as a real mail server would. */
  relayPort: number;
}

export interface Office {
  port: number;
  stop(): Promise<void>;
}

/**
 * The post office: accepts a message for any address and relays it, bytes untouched, to the program's own intake. The
 * client is told 250 only when the program has taken it.
 */
export function openPostOffice({ host, port, relayPort }: OfficeOptions): Promise<Office> {
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
        const envelope = { from: mailFrom ? mailFrom.address : '', to: rcptTo.map((one) => one.address) };
        relay.sendMail({ envelope, raw: Buffer.concat(chunks) }).then(
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

import { createTransport } from 'nodemailer';
import { mustHoldNoConnection } from '../db/connect';

/** Where our own mail goes out. */
export interface Post {
  /** @throws when the server does not take it */
  send(message: { to: string; subject: string; text: string }): Promise<void>;
  stop(): void;
}

/** @param server `host:port` of an SMTP server that takes our mail */
export function openPost(server: string, from: string): Post {
  const [host = '127.0.0.1', port = '25'] = server.split(':');
  const transport = createTransport({ host, port: Number(port), secure: false, connectionTimeout: 5000 });
  return {
    async send(message) {
      mustHoldNoConnection('a mail server');
      await transport.sendMail({ from, ...message });
    },
    stop: () => transport.close(),
  };
}

import { createTransport } from 'nodemailer';
import { mustHoldNoConnection } from '../db/connect';
import { NotSent } from './notSent';

interface PostedMessage {
  /** Makes the Message-ID, so that the same mail keeps it. */
  id: string;
  to: string;
  subject: string;
  text: string;
  /** Nobody wrote it, and no machine is to answer it (RFC 3834). */
  isAutomatic?: boolean;
  /** Whom to answer, where that is not where it comes from. */
  replyTo?: string;
  /** A calendar file that programs act on (RFC 6047). */
  calendar?: { method: string; content: string };
}

/** Where our own mail goes out. */
export interface Post {
  /**
   * @throws NotSent when the server did not take it for sure; another error when the connection broke while it was handed over
   */
  send(message: PostedMessage): Promise<void>;
}

interface SmtpError {
  responseCode?: number;
  message: string;
}

/** RFC 5321, 4.2.1: 4yz is a refusal for now, 5yz one for good. */
const isFinal = ({ responseCode = 0 }: SmtpError): boolean => responseCode >= 500 && responseCode < 600;

/** Whether the message itself began to be handed over (RFC 5321, 4.1.1.4: after DATA it may have been taken). */
class HandOver {
  hasBegun = false;
  /** Takes what the transport logs; of a client's lines only the command matters. */
  readonly logger = {
    level: () => undefined,
    trace: () => undefined,
    debug: (entry: { tnx?: string }, line: string) => {
      if (entry.tnx === 'client' && /^DATA\b/i.test(line)) this.hasBegun = true;
    },
    info: () => undefined,
    warn: () => undefined,
    error: () => undefined,
    fatal: () => undefined,
  };
}

/** @param server `host:port` of an SMTP server that takes our mail */
export function openPost(server: string, from: string): Post {
  const [host = '127.0.0.1', port = '25'] = server.split(':');
  const domain = /@([^>\s]+)/.exec(from)?.[1] ?? 'localhost';
  return {
    async send({ id, isAutomatic, calendar, ...message }) {
      mustHoldNoConnection('a mail server');
      const handOver = new HandOver();
      const transport = createTransport({
        host,
        port: Number(port),
        secure: false,
        connectionTimeout: 5000,
        greetingTimeout: 5000,
        socketTimeout: 20_000,
        transactionLog: true,
        logger: handOver.logger,
      });
      try {
        await transport.sendMail({
          from,
          messageId: `<${id}@${domain}>`,
          ...(isAutomatic ? { headers: { 'Auto-Submitted': 'auto-generated' } } : {}),
          ...(calendar ? { icalEvent: { ...calendar, filename: 'meeting.ics' } } : {}),
          ...message,
        });
      } catch (error) {
        const failed = error as SmtpError;
        if (failed.responseCode)
          throw new NotSent(`the mail server refused it: ${failed.message}`, isFinal(failed));
        if (!handOver.hasBegun) throw new NotSent('the mail server does not answer');
        throw new Error('the mail server did not say whether it took it', { cause: error });
      } finally {
        transport.close();
      }
    },
  };
}

import { isIP } from 'node:net';
import { createTransport } from 'nodemailer';
import { mustHoldNoConnection } from '../db/connect';
import { findAddress, isLoopback, type Door } from './door';
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
  /** Further header fields, by name. */
  headers?: Readonly<Record<string, string>>;
  /** A calendar file that programs act on (RFC 6047). */
  calendar?: { method: string; content: string };
}

type SmtpServer = Exclude<Parameters<typeof createTransport>[0], string | undefined>;
type MailOptions = Parameters<ReturnType<typeof createTransport>['sendMail']>[0];

/** A whole message, and for whom it is handed over. */
export interface RawMail {
  from: string;
  to: readonly string[];
  raw: Buffer;
  /** The key that it is signed with (RFC 6376). */
  sign?: { domain: string; selector: string; privateKey: string } | undefined;
}

/** An address that the server did not take, with what it said. */
export interface Rejected {
  address: string;
  code: number;
  words: string;
}

/** Where our own mail goes out. */
export interface Post {
  /**
   * @throws NotSent when the server did not take it for sure; another error when the connection broke while it was handed over
   */
  send(message: PostedMessage): Promise<void>;
  /**
   * Hands over a whole message to all whom it is for.
   * @returns whom the server did not take it for; at least one was taken
   * @throws as `send`
   */
  handOver(mail: RawMail): Promise<Rejected[]>;
}

interface SmtpError {
  responseCode?: number;
  code?: string;
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

interface SmtpInfo {
  rejectedErrors?: { recipient?: string; responseCode?: number; response?: string }[];
}

/** @throws NotSent when the server did not take it for sure; another error when the connection broke while it was handed over */
async function deliver(server: SmtpServer, message: MailOptions): Promise<SmtpInfo> {
  mustHoldNoConnection('a mail server');
  const handOver = new HandOver();
  const transport = createTransport({
    ...{ connectionTimeout: 5000, greetingTimeout: 5000, socketTimeout: 20_000 },
    ...server,
    transactionLog: true,
    logger: handOver.logger,
  });
  try {
    return (await transport.sendMail(message)) as SmtpInfo;
  } catch (error) {
    const failed = error as SmtpError;
    if (failed.code === 'EAUTH')
      throw new NotSent('the mail server does not take the user name and password', true);
    if (failed.responseCode)
      throw new NotSent(`the mail server refused it: ${failed.message}`, isFinal(failed));
    if (!handOver.hasBegun) throw new NotSent('the mail server does not answer');
    throw new Error('the mail server did not say whether it took it', { cause: error });
  } finally {
    transport.close();
  }
}

async function handOverBy(server: SmtpServer, { from, to, raw, sign }: RawMail): Promise<Rejected[]> {
  const { rejectedErrors = [] } = await deliver(server, {
    envelope: { from, to: [...to] },
    raw,
    ...(sign
      ? { dkim: { domainName: sign.domain, keySelector: sign.selector, privateKey: sign.privateKey } }
      : {}),
  });
  return rejectedErrors.map(({ recipient = '', responseCode = 0, response = '' }) => ({
    ...{ address: recipient, code: responseCode, words: response },
  }));
}

/** @param server `host:port` of an SMTP server that takes our mail */
export function openPost(server: string, from: string): Post {
  const [host = '127.0.0.1', port = '25'] = server.split(':');
  const domain = /@([^>\s]+)/.exec(from)?.[1] ?? 'localhost';
  const options = { host, port: Number(port), secure: false };
  return {
    async send({ id, isAutomatic, calendar, headers, ...message }) {
      await deliver(options, {
        from,
        messageId: `<${id}@${domain}>`,
        headers: { ...headers, ...(isAutomatic ? { 'Auto-Submitted': 'auto-generated' } : {}) },
        ...(calendar ? { icalEvent: { ...calendar, filename: 'meeting.ics' } } : {}),
        ...message,
      });
    },
    handOver: (mail) => handOverBy(options, mail),
  };
}

export interface SubmissionAccount {
  host: string;
  port: number;
  secure: boolean;
  username: string;
  password: string;
}

/** The connection to a user's own server: by TLS, from the start or before anything is said (RFC 8314), but for this machine itself. */
async function submissionOptions(
  { host, port, secure, username, password }: SubmissionAccount,
  door: Door,
): Promise<SmtpServer> {
  const address = await findAddress(host, port, door);
  if (!address) throw new NotSent(`${host}:${port} cannot be reached`);
  return {
    host: address,
    port,
    secure,
    ...(secure || isLoopback(address) ? {} : { requireTLS: true }),
    tls: isIP(host) ? {} : { servername: host },
    auth: { user: username, pass: password },
  };
}

/** Hands a message to the server of its writer (RFC 6409). @throws as `Post.handOver` */
export const submit = async (account: SubmissionAccount, door: Door, mail: RawMail): Promise<Rejected[]> =>
  handOverBy(await submissionOptions(account, door), mail);

/** Whether a server lets somebody in. @throws NotSent with what is in the way; final where it does not take the password */
export async function trySubmission(account: SubmissionAccount, door: Door): Promise<void> {
  mustHoldNoConnection('a mail server');
  const transport = createTransport({
    ...{ connectionTimeout: 5000, greetingTimeout: 5000, socketTimeout: 10_000 },
    ...(await submissionOptions(account, door)),
  });
  try {
    await transport.verify();
  } catch (error) {
    const { code, message } = error as SmtpError;
    if (code === 'EAUTH') throw new NotSent('it does not take this user name and password', true);
    throw new NotSent(code === 'ETLS' ? 'it offers no encrypted connection' : oneLine(message));
  } finally {
    transport.close();
  }
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim().slice(0, 200);

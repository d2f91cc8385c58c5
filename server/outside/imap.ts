import type { FetchMessageObject, ImapFlow, ListResponse } from 'imapflow';
import { isIP } from 'node:net';
import { mustHoldNoConnection } from '../db/connect';
import { findAddress, isLoopback, type Door } from './door';

export interface ImapAccount {
  host: string;
  port: number;
  secure: boolean;
  username: string;
  password: string;
}

export interface Seen {
  uid: number;
  messageId: string | null;
  /** The message it answers. */
  inReplyTo: string | null;
  from: { name: string; address: string } | null;
  to: { name: string; address: string }[];
  at: Date;
}

export interface OpenFolder {
  path: string;
  uidValidity: number;
  uidNext: number;
}

/** A mailbox that is being read. It is opened read-only: no flag is set, nothing is moved or deleted. */
export interface ImapReader {
  folders(): Promise<string[]>;
  open(path: string): Promise<OpenFolder>;
  /** What came since a UID, at most `limit` messages, oldest first, without their contents. */
  since(uid: number, limit: number): Promise<Seen[]>;
  /** Whole messages of the open folder, by UID; those that are gone are left out. */
  sources(uids: readonly number[]): Promise<Map<number, Buffer>>;
  close(): Promise<void>;
}

const LEFT_OUT = new Set(['\\Junk', '\\Trash', '\\Drafts']);
const TIMEOUT_MS = 20_000;

const isRead = (folder: ListResponse): boolean =>
  !folder.flags.has('\\Noselect') &&
  !folder.flags.has('\\NonExistent') &&
  !LEFT_OUT.has(folder.specialUse ?? '') &&
  !/^(?:junk|spam|trash|drafts|deleted)/i.test(folder.name);

function asSeen(message: FetchMessageObject): Seen {
  const { envelope } = message;
  const people = (list: { name?: string; address?: string }[] | undefined): Seen['to'] =>
    (list ?? []).flatMap((one) =>
      one.address ? [{ name: one.name ?? '', address: one.address.toLowerCase() }] : [],
    );
  return {
    uid: message.uid,
    messageId: envelope?.messageId ?? null,
    inReplyTo: envelope?.inReplyTo ?? null,
    from: people(envelope?.from)[0] ?? null,
    to: [...people(envelope?.to), ...people(envelope?.cc)],
    at: new Date(envelope?.date ?? message.internalDate ?? 0),
  };
}

/**
 * A password crosses no network in the clear: where the server does not begin with TLS it has to change to it, and one that
 * cannot is not signed in to. Only this machine itself is spared.
 */
export const tlsRule = (isSecure: boolean, address: string): { doSTARTTLS?: true } =>
  isSecure || isLoopback(address) ? {} : { doSTARTTLS: true };

/** The server is there and does not take the name and password. */
export class SignInRefused extends Error {}

/** @throws with words for people when the server is not there or does not let us in */
async function connect(account: ImapAccount, door: Door): Promise<ImapFlow> {
  mustHoldNoConnection('a mailbox');
  const unreachable = (): Error =>
    new Error(`${account.host}:${account.port} cannot be reached. It is tried again in two minutes.`);
  const address = await findAddress(account.host, account.port, door);
  if (!address) throw unreachable();
  // Loaded with the first mailbox: a server without one has no need of it, and 30 MB more.
  const imap = await import('imapflow');
  const client = new imap.ImapFlow({
    host: address,
    ...(isIP(account.host) ? {} : { servername: account.host }),
    port: account.port,
    secure: account.secure,
    ...tlsRule(account.secure, address),
    auth: { user: account.username, pass: account.password },
    logger: false,
    disableAutoIdle: true,
    connectionTimeout: TIMEOUT_MS,
    greetingTimeout: TIMEOUT_MS,
    socketTimeout: TIMEOUT_MS * 3,
  });
  // Without a listener a dropped connection would end the process; whoever waits for an answer is told by it failing.
  client.on('error', () => undefined);
  try {
    await client.connect();
  } catch (error) {
    const denied = error instanceof Error && 'authenticationFailed' in error;
    client.close();
    if (denied)
      throw new SignInRefused(
        `${account.host} refuses this name and password. Enter the right password below.`,
        {
          cause: error,
        },
      );
    throw unreachable();
  }
  return client;
}

/** @throws with words for people when the server is not there or does not let us in */
export async function openImap(account: ImapAccount, door: Door): Promise<ImapReader> {
  const client = await connect(account, door);
  return {
    async folders() {
      return (await client.list()).filter(isRead).map((folder) => folder.path);
    },
    async open(path) {
      const box = await client.mailboxOpen(path, { readOnly: true });
      return { path, uidValidity: Number(box.uidValidity), uidNext: box.uidNext };
    },
    async since(uid, limit) {
      const found: Seen[] = [];
      const uids = (await client.search({ uid: `${uid}:*` }, { uid: true })) || [];
      // "5:*" names the last message even where its UID is lower (RFC 3501 §6.4.8).
      const wanted = uids
        .filter((one) => one >= uid)
        .sort((a, b) => a - b)
        .slice(0, limit);
      if (!wanted.length) return [];
      for await (const message of client.fetch(
        wanted.join(','),
        { uid: true, envelope: true, internalDate: true },
        { uid: true },
      ))
        found.push(asSeen(message));
      return found.sort((a, b) => a.uid - b.uid);
    },
    async sources(uids) {
      const found = new Map<number, Buffer>();
      if (!uids.length) return found;
      for await (const message of client.fetch(uids.join(','), { uid: true, source: true }, { uid: true }))
        if (message.source) found.set(message.uid, message.source);
      return found;
    },
    async close() {
      await client.logout().catch(() => client.close());
    },
  };
}

/** What servers call the folder of what was sent, where they do not say which it is (RFC 6154). */
const SENT_NAME =
  /^(?:sent(?: (?:items|messages|mail))?|gesendet\w*|envoyés?|enviad[oa]s?|posta inviata|verzonden.*)$/i;

/**
 * Puts a message into the Sent folder, read. One with its Message-ID that is there already stays alone.
 * @throws with words for people
 */
export async function appendSent(
  account: ImapAccount,
  door: Door,
  { raw, messageId, at }: { raw: Buffer; messageId: string | null; at: Date },
): Promise<void> {
  const client = await connect(account, door);
  try {
    const folders = await client.list();
    const sent =
      folders.find(({ specialUse }) => specialUse === '\\Sent') ??
      folders.find(({ name }) => SENT_NAME.test(name));
    const path = sent?.path ?? 'Sent';
    if (!sent) await client.mailboxCreate(path);
    if (messageId) {
      await client.mailboxOpen(path, { readOnly: true });
      const known = await client.search({ header: { 'message-id': messageId } }, { uid: true });
      if (known && known.length) return;
    }
    await client.append(path, raw, ['\\Seen'], at);
  } finally {
    await client.logout().catch(() => client.close());
  }
}

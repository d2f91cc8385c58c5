import type { PhoneType } from '../people/phones';

/** The fields a claim can be about; named after schema.org and vCard. */
export const CLAIM_FIELDS = [
  'fullName',
  'givenName',
  'familyName',
  'jobTitle',
  'companyName',
  'email',
  'phone',
  'url',
  'profile',
  'address',
  'birthday',
  'timeZone',
  'note',
] as const;
export type ClaimField = (typeof CLAIM_FIELDS)[number];

/** Which part of the capture a span counts in; offsets are UTF-16 units of that part's text. */
export type Part = 'from' | 'subject' | 'text';

export interface Span {
  part: Part;
  start: number;
  end: number;
}

/** One asserted value of one field. */
export interface Claim {
  field: ClaimField;
  value: string;
  /** The value in the form in which equal things are equal: E.164, lower-case address, URL with scheme. */
  normalized?: string;
  type?: PhoneType;
  /** 0 to 1, and meant: of the claims given 0.9 or more at most one in a hundred is wrong. */
  confidence: number;
  span?: Span;
  /** What in the message says so, in words: "signature", "sender's address" … */
  source: string;
}

interface IntentBase {
  /** The words of the message it was read from. */
  text: string;
  span: Span;
  confidence: number;
}

export type Intent = IntentBase &
  (
    | { kind: 'ask'; value: { what: string; due: string | null } }
    | { kind: 'when'; value: { at: string; allDay: boolean } }
    | { kind: 'money'; value: { minor: number; currency: string; approximate: boolean } }
    | { kind: 'quantity'; value: { count: number; of: string } }
  );
export type IntentKind = Intent['kind'];

export interface Mailbox {
  name: string;
  address: string;
}

/** What a reading keeps of the message itself, enough to show it. */
export interface MessageView {
  from: Mailbox | null;
  to: Mailbox[];
  subject: string;
  /** When it was sent, ISO 8601 with the sender's own offset; null when it does not say. */
  sentAt: string | null;
  messageId: string | null;
  references: string[];
  /** Which alternative was read and is shown. */
  body: 'plain' | 'html';
  text: string;
  /** What the person of interest says, without quoting and signature, white space collapsed; at most 600 characters. */
  said: string;
  attachments: { name: string; mediaType: string }[];
  /** Who wrote it: one of ours, or somebody else. */
  side: 'ours' | 'theirs';
}

export interface Reading {
  kind: 'email' | 'text';
  claims: Claim[];
  intents: Intent[];
  message: MessageView;
  /** Things worth saying about the reading itself, in plain words ("cut short", "forwarded by …"). */
  notices: string[];
}

export interface ReadOptions {
  /** Our own domains and addresses, lower case: what these send is not a prospect's. */
  ours?: readonly string[];
  /** ISO 8601 time used for dates when the message has none of its own. */
  receivedAt?: string;
  /** ISO 4217 code of a sum that names no currency, where the sender's country does not tell. */
  currency?: string;
}

/** Larger messages are refused before they are read. Bytes. */
export const MAX_MESSAGE_BYTES = 20 * 1024 * 1024;

import type { PhoneType } from '../people/phones';
import type { CardDetails } from './card/details';

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
/** How a field is called to a person. */
export const FIELD_NAMES: Record<ClaimField, string> = {
  fullName: 'Name',
  givenName: 'Given name',
  familyName: 'Family name',
  jobTitle: 'Job title',
  companyName: 'Company',
  email: 'Email',
  phone: 'Phone',
  url: 'Web',
  profile: 'Profile',
  address: 'Address',
  birthday: 'Birthday',
  timeZone: 'Time zone',
  note: 'Note',
};

/** A field of the house's own: `custom:` and the key it has in Settings. */
export type CustomField = `custom:${string}`;

/**
 * Which part of the capture a span counts in; offsets are UTF-16 units of that part's text. `source` is the document
 * behind a page, where structured data stands that no reader of the page sees.
 */
export type Part = 'from' | 'subject' | 'text' | 'source';

export interface Span {
  part: Part;
  start: number;
  end: number;
}

/** One asserted value of one field. */
export interface Claim {
  field: ClaimField | CustomField;
  value: string;
  /** The value in the form in which equal things are equal: E.164, lower-case address, URL with scheme. */
  normalized?: string;
  type?: PhoneType;
  /** 0 to 1, and meant: of the claims given 0.9 or more at most one in a hundred is wrong. */
  confidence: number;
  span?: Span;
  /** What in the message says so, in words: "signature", "sender's address" … */
  source: string;
  /** Which card or row of the file it is of, counted from 0; left out where there is only one. */
  record?: number;
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
    | { kind: 'date'; value: { at: string; allDay: boolean } }
    | { kind: 'money'; value: { minor: number; currency: string; approximate: boolean } }
    | { kind: 'quantity'; value: { count: number; of: string } }
    | { kind: 'promise'; value: { by: 'ours' | 'theirs'; what: string; due: string | null } }
    | { kind: 'interest' | 'objection'; value: { what: string } }
  );
export type IntentKind = Intent['kind'];

export interface Mailbox {
  name: string;
  address: string;
}

/** What a message is that no person wrote to somebody. */
export const MAIL_NATURES = ['newsletter', 'notice', 'automatic reply'] as const;
export type MailNature = (typeof MAIL_NATURES)[number];

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
  /** What a card says beside its claims; left out for anything but one card. */
  card?: CardDetails;
  /** Who wrote it: one of ours, or somebody else. */
  side: 'ours' | 'theirs';
  /** Left out for what a person wrote. */
  nature?: MailNature;
  /** At most two sentences of the text itself that say most of what is wanted; empty when nothing is. */
  digest?: string;
  /** The mood of what is said, where the language is one whose words are weighed; see docs/reading.md. */
  tone?: Tone | null;
  /** Where a page was, and what it is a page of. */
  page?: PageFacts;
  /** What the exchange, or a rep, says of a call. */
  call?: CallFacts;
}

export type Tone = 'negative' | 'neutral' | 'positive';

/** A name in a list of people, or one message of a conversation. */
export interface Listed {
  name: string;
  url: string | null;
  jobTitle: string;
  companyName: string;
  email: string | null;
  phone: string | null;
}
export interface Said {
  /** The page's own id of the message; null when it has none. */
  id: string | null;
  from: string;
  /** ISO 8601 with offset; null when the page does not say. */
  at: string | null;
  text: string;
}
export type PageKind = 'profile' | 'company' | 'list' | 'messages' | 'other';
export interface PageFacts {
  url: string;
  kind: PageKind;
  people: Listed[];
  conversation: Said[];
}

export interface CallFacts {
  id: string;
  direction: 'in' | 'out';
  from: string;
  to: string;
  startedAt: string;
  answeredAt: string | null;
  endedAt: string | null;
}

export const CAPTURE_KINDS = ['email', 'text', 'page', 'call', 'form', 'card', 'row'] as const;
export type CaptureKind = (typeof CAPTURE_KINDS)[number];

export interface Reading {
  kind: CaptureKind;
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
  /** ISO 3166-1 alpha-2 code for numbers written without a country code, where nothing else tells. */
  country?: string;
}

/** Larger messages are refused before they are read. Bytes. */
export const MAX_MESSAGE_BYTES = 20 * 1024 * 1024;

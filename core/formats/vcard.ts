import ICAL from 'ical.js';
import { decodeText } from './encoding';

export interface CardProperty {
  name: string;
  /** Lower-case parameters; `type` holds all types, lower case. */
  params: Record<string, string[]>;
  /** A structured value keeps its parts. */
  value: string | string[];
}
export interface Card {
  version: string;
  properties: CardProperty[];
  /** The card as it stands in the file. */
  raw: string;
}

const MOST_CARDS = 100_000;
/** Many times what a card of anybody's has; the parser keeps an object for every one. */
const MOST_CARD_LINES = 5000;

/** Lines of a folded file joined again: RFC 6350 §3.2, and the soft breaks of quoted-printable in vCard 2.1. */
function unfold(text: string): string[] {
  const lines: string[] = [];
  for (const line of text.split(/\r\n|\n|\r/)) {
    const last = lines.at(-1);
    if (last !== undefined && /^[ \t]/.test(line)) lines[lines.length - 1] = last + line.slice(1);
    else if (last !== undefined && last.endsWith('=') && /QUOTED-PRINTABLE/i.test(last))
      lines[lines.length - 1] = last.slice(0, -1) + line;
    else lines.push(line);
  }
  return lines;
}

function fromQuotedPrintable(value: string, charset: string): string {
  const bytes: number[] = [];
  for (let at = 0; at < value.length; at++) {
    const hex = value[at] === '=' ? /^[0-9A-F]{2}/i.exec(value.slice(at + 1)) : null;
    if (hex) {
      bytes.push(parseInt(hex[0], 16));
      at += 2;
    } else bytes.push(...new TextEncoder().encode(value[at]));
  }
  try {
    return new TextDecoder(charset).decode(Uint8Array.from(bytes));
  } catch {
    return decodeText(Uint8Array.from(bytes)).text;
  }
}

const KNOWN_PARAMS = /^(?:quoted-printable|base64|8bit|7bit|b)$/i;

/** A line of vCard 2.1 written as 3.0 writes it: bare types named, quoted-printable decoded, white space escaped. */
function modernise(line: string): string {
  const head = /^((?:[\w-]+\.)?[\w-]+)((?:;[^:]*)?):(.*)$/s.exec(line);
  if (!head) return line;
  const [, name = '', written = '', value = ''] = head;
  const params = written.split(';').filter(Boolean);
  let isQuoted = false;
  let charset = 'utf-8';
  const types: string[] = [];
  const kept: string[] = [];
  for (const param of params) {
    const [key = '', content] = param.split('=');
    if (/^encoding$/i.test(key) || (content === undefined && KNOWN_PARAMS.test(key))) {
      if (/quoted-printable/i.test(content ?? key)) isQuoted = true;
      else kept.push(`ENCODING=${content ?? key}`);
    } else if (/^charset$/i.test(key)) charset = content ?? charset;
    else if (content === undefined) types.push(key);
    else kept.push(param);
  }
  if (types.length) kept.unshift(`TYPE=${types.join(',')}`);
  const text = isQuoted
    ? fromQuotedPrintable(value, charset)
        .replace(/\\?\r?\n/g, '\\n')
        .replace(/,(?=.)/g, '\\,')
    : value;
  return `${[name, ...kept].join(';')}:${text}`;
}

function readCard(lines: readonly string[]): Card | null {
  const version = /^version:\s*(\S+)/im.exec(lines.join('\n'))?.[1] ?? '3.0';
  const clean = lines
    .filter((line) => line.trim() && !/^(?:PHOTO|LOGO|SOUND|KEY)\b/i.test(line))
    .map((line) => (version === '2.1' ? modernise(line) : line))
    .map((line) => (/^version:/i.test(line) ? `VERSION:${version === '2.1' ? '3.0' : version}` : line));
  const parsed = parseSafely(clean);
  if (!parsed) return null;
  const properties = parsed.map(([name, params, , ...values]): CardProperty => {
    const [first] = values as unknown[];
    const value = Array.isArray(first)
      ? first.map((part) => (Array.isArray(part) ? part.join(', ') : String(part)))
      : values.map((value) => String(value).replace(/\\;/g, ';')).join(name === 'org' ? ';' : ', ');
    return {
      name: String(name).replace(/^.*\./, ''),
      params: Object.fromEntries(
        Object.entries(params as Record<string, string | string[]>).map(([key, one]) => [
          key.toLowerCase(),
          // What is said in words (RFC 6350 §6.3.1, LABEL) keeps its commas and its case; kinds have neither.
          key.toLowerCase() === 'label'
            ? [one].flat()
            : (Array.isArray(one) ? one : one.split(',')).map((part) => part.toLowerCase().trim()),
        ]),
      ),
      value,
    };
  });
  return { version, properties, raw: lines.join('\r\n') };
}

type Parsed = [string, Record<string, unknown>, string, ...unknown[]][];

/** A line the parser cannot take is left out, so that one bad line does not cost the card. */
function parseSafely(lines: readonly string[]): Parsed | null {
  const tryAll = (some: readonly string[]): Parsed | null => {
    try {
      const [first] = [ICAL.parse(some.join('\r\n'))] as unknown as [string, Parsed][];
      return first?.[1] ?? null;
    } catch {
      return null;
    }
  };
  const whole = tryAll(lines);
  if (whole) return whole;
  const [begin = 'BEGIN:VCARD', ...rest] = lines;
  const inner = rest.filter((line) => !/^(?:END|VERSION):/i.test(line));
  const version = rest.find((line) => /^VERSION:/i.test(line)) ?? 'VERSION:3.0';
  const kept: Parsed = [];
  for (const line of inner.slice(0, 500))
    kept.push(...(tryAll([begin, version, line, 'END:VCARD']) ?? []).filter(([name]) => name !== 'version'));
  return kept.length ? kept : null;
}

/**
 * The cards of a vCard file, 2.1, 3.0 (RFC 2426) or 4.0 (RFC 6350). Pictures and keys are left out, and
 * what a card says after its first 5,000 lines.
 * @returns the cards, and how many could not be read
 */
export function parseCards(bytes: Uint8Array): { cards: Card[]; unreadable: number } {
  const cards: Card[] = [];
  let unreadable = 0;
  let lines: string[] | null = null;
  for (const line of unfold(decodeText(bytes).text)) {
    if (/^\s*BEGIN:VCARD\s*$/i.test(line)) lines = ['BEGIN:VCARD'];
    else if (/^\s*END:VCARD\s*$/i.test(line) && lines) {
      const card = readCard([...lines, 'END:VCARD']);
      if (card) cards.push(card);
      else unreadable++;
      lines = null;
      if (cards.length >= MOST_CARDS) break;
    } else if (lines && lines.length < MOST_CARD_LINES) lines.push(line);
  }
  return { cards, unreadable: unreadable + (lines ? 1 : 0) };
}

export interface PersonCard {
  fullName: string;
  givenName: string;
  familyName: string;
  jobTitle: string | null;
  companyName: string | null;
  /** Honorific prefixes, as `Dr.`; empty for none. */
  prefix: string;
  department: string;
  address: string | null;
  /** RFC 6350 §6.3.1, seven parts; null where only the text is known. */
  addressParts: string[] | null;
  addressType: string | null;
  birthday: string | null;
  timeZone: string | null;
  emails: { value: string; type: string | null }[];
  tags: string[];
  phones: { value: string; type: string | null }[];
  urls: string[];
  profiles: string[];
  note: string | null;
}

/** Text as a value of a card (RFC 6350, 3.4). */
export const escapeText = (text: string): string =>
  text.replace(/\\/g, '\\\\').replace(/\r?\n/g, '\\n').replace(/,/g, '\\,').replace(/;/g, '\\;');

/** RFC 6350 §3.2: lines of at most 75 octets, never cut inside a character. */
export function fold(line: string): string {
  const out: string[] = [];
  let piece = '';
  let size = 0;
  for (const char of line) {
    const octets = new TextEncoder().encode(char).length;
    if (size + octets > (out.length ? 74 : 75)) {
      out.push(piece);
      [piece, size] = ['', 0];
    }
    piece += char;
    size += octets;
  }
  return [...out, piece].join('\r\n ');
}

const TEL_TYPE: Record<string, string> = { mobile: 'cell', work: 'work', home: 'home', fax: 'fax' };

/** A person as a vCard 4.0 (RFC 6350), with all that we hold. */
export function writeCard(person: PersonCard): string {
  const lines = [
    'BEGIN:VCARD',
    'VERSION:4.0',
    `FN:${escapeText(person.fullName)}`,
    `N:${escapeText(person.familyName)};${escapeText(person.givenName)};;${escapeText(person.prefix)};`,
    ...(person.jobTitle ? [`TITLE:${escapeText(person.jobTitle)}`] : []),
    ...(person.companyName || person.department
      ? [`ORG:${[person.companyName ?? '', person.department].map(escapeText).join(';').replace(/;$/, '')}`]
      : []),
    ...person.emails.map(({ value, type }) => `EMAIL${type ? `;TYPE=${type}` : ''}:${escapeText(value)}`),
    ...person.phones.map(
      ({ value, type }) => `TEL;VALUE=uri${type ? `;TYPE=${TEL_TYPE[type] ?? 'voice'}` : ''}:tel:${value}`,
    ),
    ...(person.address
      ? [
          `ADR${person.addressType ? `;TYPE=${person.addressType}` : ''}:${(person.addressParts ?? ['', '', person.address, '', '', '', '']).map(escapeText).join(';')}`,
        ]
      : []),
    ...person.urls.map((url) => `URL:${url}`),
    ...person.profiles.map((url) => `X-SOCIALPROFILE;VALUE=uri:${url}`),
    ...(person.birthday ? [`BDAY:${person.birthday.replace(/(?<=\d)-/g, '')}`] : []),
    ...(person.timeZone ? [`TZ:${escapeText(person.timeZone)}`] : []),
    ...(person.tags.length ? [`CATEGORIES:${person.tags.map(escapeText).join(',')}`] : []),
    ...(person.note ? [`NOTE:${escapeText(person.note)}`] : []),
    'END:VCARD',
  ];
  return `${lines.map(fold).join('\r\n')}\r\n`;
}

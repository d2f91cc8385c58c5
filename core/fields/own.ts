/** What records can have fields of an organisation's own. */
export const OWN_RECORDS = ['person', 'company', 'lead', 'deal', 'task', 'project', 'case'] as const;
export type OwnRecord = (typeof OWN_RECORDS)[number];

/** Kinds of such fields. A `formula` is calculated from the others and never written. */
export const OWN_KINDS = [
  'text',
  'long text',
  'number',
  'money',
  'date',
  'yearly date',
  'choice',
  'several',
  'yes or no',
  'person',
  'company',
  'link',
  'file',
  'formula',
] as const;
export type OwnKind = (typeof OWN_KINDS)[number];

/** Kinds that hold the id of something else. */
export const POINTS: ReadonlySet<OwnKind> = new Set(['person', 'company', 'file']);
/** Kinds whose values stand in no table or form of somebody else's. */
export const NOT_READ: ReadonlySet<OwnKind> = new Set([...POINTS, 'formula']);
/** Kinds of which a value can be asked to stand on one record only. */
export const MAY_BE_UNIQUE: ReadonlySet<OwnKind> = new Set(['text', 'number', 'link']);

export type Normalised = { value: string } | { why: string };

/** In characters. */
export const LONGEST_FORMULA = 500;
const LONGEST_LINE = 500;
const LONGEST_TEXT = 10_000;
const UUID = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
/** A leap year, so that the 29th of February is a day that comes back. */
const ANY_LEAP_YEAR = '2000';

function isDay(day: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(day)) return false;
  const at = new Date(`${day}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(day);
}

function line(value: string): Normalised {
  if (/[\p{Cc}\u2028\u2029]/u.test(value)) return { why: 'must be one line' };
  return value.length > LONGEST_LINE ? { why: `must be shorter than ${LONGEST_LINE} characters` } : { value };
}

function number(value: string): Normalised {
  const plain = value.replace(/[\s\u00a0\u202f']/g, '');
  const found = /^([-\u2212+]?)0*(\d{1,15})(?:\.(\d{1,9}))?$/.exec(plain);
  if (!found) return { why: 'must be a number such as 12.5' };
  const decimals = (found[3] ?? '').replace(/0+$/, '');
  const size = `${found[2]}${decimals ? `.${decimals}` : ''}`;
  return { value: found[1] && found[1] !== '+' && /[1-9]/.test(size) ? `-${size}` : size };
}

/** A web address as it is opened: `https` where none is told; no other schemes, no name and password within. */
function link(value: string): Normalised {
  const why = 'must be a web address such as https://fleet.example/plan';
  const told = /^[a-z][a-z0-9+.-]*:/i.test(value) && !/^[^/:]+:\d+(?:[/?#]|$)/.test(value);
  try {
    const url = new URL(told ? value : `https://${value}`);
    const isGood =
      ['http:', 'https:'].includes(url.protocol) &&
      !url.username &&
      !url.password &&
      url.hostname.includes('.');
    return isGood && url.href.length <= 2000 ? { value: url.href } : { why };
  } catch {
    return { why };
  }
}

function yearly(value: string): Normalised {
  const full = /^--(\d{2}-\d{2})$/.exec(value);
  return isDay(full ? `${ANY_LEAP_YEAR}-${full[1]}` : value)
    ? { value }
    : { why: 'must be a day such as --05-28, or 1984-05-28' };
}

function several(value: string, options: readonly string[]): Normalised {
  const chosen = new Set(
    value
      .split('\n')
      .map((one) => one.trim())
      .filter(Boolean),
  );
  const unknown = [...chosen].find((one) => !options.includes(one));
  if (unknown !== undefined) return { why: `“${unknown}” is not one of its choices` };
  return { value: options.filter((one) => chosen.has(one)).join('\n') };
}

const oneOf = (value: string, options: readonly string[]): Normalised =>
  options.includes(value) ? { value } : { why: `must be one of: ${options.join(', ')}` };

const NORMALISE: Readonly<Record<OwnKind, (value: string, options: readonly string[]) => Normalised>> = {
  text: line,
  'long text': (value) =>
    value.length > LONGEST_TEXT
      ? { why: `must be shorter than ${LONGEST_TEXT} characters` }
      : { value: value.replace(/\r\n?/g, '\n').replaceAll('\u0000', '') },
  number,
  money: (value) =>
    /^-?\d{1,15}$/.test(value) ? number(value) : { why: 'must be a sum in minor units, such as 125000' },
  date: (value) => (isDay(value) ? { value } : { why: 'must be a day such as 2026-05-28' }),
  'yearly date': yearly,
  choice: oneOf,
  several,
  'yes or no': (value) => oneOf(value.toLowerCase(), ['yes', 'no']),
  person: (value) => (UUID.test(value) ? { value } : { why: 'must be a person' }),
  company: (value) => (UUID.test(value) ? { value } : { why: 'must be a company' }),
  link,
  file: (value) => (UUID.test(value) ? { value } : { why: 'must be a file' }),
  formula: () => ({ why: 'is calculated and cannot be entered' }),
};

/**
 * A value of a field as it is kept: a day as YYYY-MM-DD (or --MM-DD where it comes back every year), money in minor units
 * of the field's currency, several choices a line each in the order of the choices, what it points to by its id.
 * @param options the choices of the field; of money its currency
 * @returns the value, '' for none, or what is wrong with it, in words that follow the field's name
 */
export function normaliseOwn(kind: OwnKind, value: string, options: readonly string[]): Normalised {
  const trimmed = value.trim();
  return trimmed === '' ? { value: '' } : NORMALISE[kind](trimmed, options);
}

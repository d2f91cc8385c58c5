import { doubleMetaphone } from 'double-metaphone';
import { companyKey } from '../../people/companies';
import { companyDomain, localPart } from '../../people/emails';
import { isRoleName, parseName, stripTitles } from '../../people/names';
import { rootsOf } from '../../people/nicknames';
import { fold, spelt } from '../../people/text';
import { readDay } from '../../reading/table/days';
import type { Kind, Plan, PlannedField } from './plan';
import { Dictionary, type PackedStrings } from './strings';

/** One field of all rows, as numbers into one list of strings; 0 where nothing is known. */
export interface FeatureField {
  kind: Kind;
  name: string;
  /** Values to compare, one array a column. */
  values: Int32Array[];
  /**
   * What is derived once and compared or blocked by: of names the roots of nicknames, of addresses the local part, the
   * employer's domain and whether it is a shared mailbox (1).
   */
  derived: Int32Array[];
  /** How often a value stands in the rows, by string number: of `values[0]`. */
  counts: Uint32Array;
}

export interface Features {
  rows: number;
  fields: FeatureField[];
  strings: PackedStrings;
  /** The phonetic code of a string number of a name; 0 where it has none. */
  sounds: Int32Array;
}

const ROOTS = 3;
const NOTHING = /^(?:n\/?a|null|none|nil|unknown|undefined|-+|\.+|\?+|x+|tbc|tba|#n\/a|nan)$/i;
const STREET: Record<string, string> = {
  st: 'street',
  str: 'strasse',
  rd: 'road',
  ave: 'avenue',
  av: 'avenue',
  ln: 'lane',
  dr: 'drive',
  pl: 'place',
  sq: 'square',
  ct: 'court',
  cres: 'crescent',
  cl: 'close',
  tce: 'terrace',
  terr: 'terrace',
  blvd: 'boulevard',
  hwy: 'highway',
  pde: 'parade',
  n: 'north',
  s: 'south',
  e: 'east',
  w: 'west',
};
const PHONE_DIGITS = 9;

/** Digits that stay the same however a number is written: the last nine. */
const phoneTail = (text: string): string => {
  const digits = text.replace(/\D/g, '');
  return digits.length < 6 || /^(\d)\1+$/.test(digits) ? '' : digits.slice(-PHONE_DIGITS);
};
const streetKey = (text: string): string =>
  fold(text)
    .split(' ')
    .map((word) => STREET[word] ?? word)
    .join(' ');
const dateKey = (text: string): string =>
  /^(?:19|20)\d{6}$/.test(text) ? text : (readDay(text, null) ?? text).replace(/\D/g, '');

/** How a value of a kind is written when it is compared. */
function normalize(kind: Kind, text: string): string {
  const value = text.trim();
  if (!value || NOTHING.test(value)) return '';
  if (kind === 'email') return value.includes('@') ? value.toLowerCase().replace(/^mailto:/, '') : '';
  if (kind === 'phone') return phoneTail(value);
  if (kind === 'company') return companyKey(value);
  if (kind === 'street') return streetKey(value);
  if (kind === 'date') return dateKey(value);
  if (kind === 'postcode') return fold(value).replace(/ /g, '');
  if (kind === 'number') return value.replace(/[^\d.]/g, '').replace(/^0+(?=\d)/, '');
  if (kind === 'given' || kind === 'family') return fold(spelt(stripTitles(value)));
  return fold(value);
}

/** Collects the features of a table row by row. */
export class FeatureBuilder {
  private readonly dictionary = new Dictionary();
  private readonly values: number[][][];
  private readonly derived: number[][][];
  private rows = 0;
  private readonly caches = new Map<Kind, Map<string, number>>();

  constructor(private readonly plan: Plan) {
    this.values = plan.fields.map((field) => field.columns.map(() => []));
    this.derived = plan.fields.map(({ kind }) =>
      Array.from({ length: kind === 'given' ? ROOTS : kind === 'email' ? 3 : 0 }, () => []),
    );
  }

  add(row: readonly string[]): void {
    this.rows++;
    let names: { given: string; family: string } | null = null;
    for (const [at, field] of this.plan.fields.entries()) {
      for (const [position, column] of field.columns.entries()) {
        let text = row[column] ?? '';
        if (field.fromFullName) {
          if (!names) {
            const { givenName, familyName } = parseName(text);
            names = { given: givenName, family: familyName };
          }
          text = field.kind === 'given' ? names.given : names.family;
        }
        const id = this.idOf(field.kind, text);
        this.values[at]?.[position]?.push(id);
        if (position === 0) this.derive(field, at, id);
      }
    }
  }

  private idOf(kind: Kind, text: string): number {
    if (!text) return 0;
    let cache = this.caches.get(kind);
    if (!cache) this.caches.set(kind, (cache = new Map()));
    const known = cache.get(text);
    if (known !== undefined) return known;
    const id = this.dictionary.add(normalize(kind, text));
    cache.set(text, id);
    return id;
  }

  private derive({ kind }: PlannedField, at: number, id: number): void {
    const into = this.derived[at];
    if (!into?.length) return;
    const text = this.dictionary.textOf(id);
    if (kind === 'given') {
      const roots = text ? rootsOf(text.split(' ')[0] ?? '') : [];
      for (let index = 0; index < ROOTS; index++) into[index]?.push(this.dictionary.add(roots[index] ?? ''));
    } else {
      const local = localPart(text).split('+')[0] ?? '';
      const isRole = text !== '' && isRoleName(local);
      const bare = isRole ? '' : local.replace(/[^\p{L}\p{N}]/gu, '');
      into[0]?.push(this.dictionary.add(bare));
      into[1]?.push(text ? this.dictionary.add(companyDomain(text) ?? '') : 0);
      into[2]?.push(isRole ? 1 : 0);
    }
  }

  finish(): Features {
    const shared = (list: readonly number[]): Int32Array => {
      const array = new Int32Array(new SharedArrayBuffer(4 * Math.max(1, list.length)));
      array.set(list);
      return array;
    };
    const size = this.dictionary.size;
    const names = new Set<number>();
    const fields = this.plan.fields.map(({ kind, name }, at): FeatureField => {
      const values = (this.values[at] ?? []).map(shared);
      const counts = new Uint32Array(new SharedArrayBuffer(4 * size));
      for (const id of values[0] ?? []) counts[id] = (counts[id] ?? 0) + 1;
      if (kind === 'given' || kind === 'family') for (const id of values[0] ?? []) names.add(id);
      return { kind, name, values, derived: (this.derived[at] ?? []).map(shared), counts };
    });
    const codes = new Map<number, number>();
    for (const id of names) {
      const [code = ''] = doubleMetaphone(this.dictionary.textOf(id));
      if (code) codes.set(id, this.dictionary.add(`~${code}`));
    }
    const sounds = new Int32Array(new SharedArrayBuffer(4 * this.dictionary.size));
    for (const [id, code] of codes) sounds[id] = code;
    return { rows: this.rows, fields, strings: this.dictionary.pack(), sounds };
  }
}

/** Names come together more often than chance has it: the same people give both. */
const TOGETHER = 3;

/** How many pairs of two people may share both names, by how common the names are; infinite where there are no names. */
export function expectedNamesakes({ fields, rows }: Features): number {
  const shareOf = (kind: Kind): number | null => {
    const field = fields.find((field) => field.kind === kind);
    if (!field) return null;
    let squares = 0;
    for (let id = 1; id < field.counts.length; id++) squares += ((field.counts[id] as number) / rows) ** 2;
    return squares;
  };
  const [given, family] = [shareOf('given'), shareOf('family')];
  return given === null || family === null
    ? Infinity
    : 1 + ((TOGETHER * rows * (rows - 1)) / 2) * given * family;
}

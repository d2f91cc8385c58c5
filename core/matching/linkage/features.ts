import { companyDomain, localPart } from '../../people/emails';
import { firmParts, isInitials } from '../../people/naming/firms';
import { isRoleName } from '../../people/names';
import { fold } from '../../people/text';
import { readDay } from '../../reading/table/days';
import { agrees, LEVEL, NameComparer, noRelation } from './nameLevels';
import { NameBuilder, type NameTable } from './nameTable';
import type { Kind, Plan } from './plan';
import { Dictionary, shared, type PackedStrings } from './strings';

/** One field of all rows but the name, as numbers into one list of strings; 0 where nothing is known. */
export interface FeatureField {
  kind: Kind;
  name: string;
  /** Values to compare, one array a column. */
  values: Int32Array[];
  /**
   * What is derived once. Of addresses the part before the @, the employer's domain and whether it is a shared mailbox (1);
   * of firms what tells them from others, the first word of that, and their initials.
   */
  derived: Int32Array[];
  /** In how many rows a value stands, by string number: of all columns and what is derived. */
  counts: Uint32Array;
  /** Of addresses and numbers: how many people of different given names have it, by string number. */
  holders: Uint16Array;
}

export interface Features {
  rows: number;
  names: NameTable;
  fields: FeatureField[];
  strings: PackedStrings;
}

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
  if (kind === 'company') return firmParts(value).key;
  if (kind === 'street') return streetKey(value);
  if (kind === 'date') return dateKey(value);
  if (kind === 'postcode') return fold(value).replace(/ /g, '');
  if (kind === 'number') return value.replace(/[^\d.]/g, '').replace(/^0+(?=\d)/, '');
  return fold(value);
}

const DERIVED: Partial<Record<Kind, number>> = { email: 3, company: 3 };
const isName = (kind: Kind): boolean => kind === 'given' || kind === 'family';

/** Of a value that so many rows have, names are only counted, and not compared. */
const COMPARED = 24;

/** By value, how many people of given names that do not fit have it. */
function holdersOf(
  columns: readonly Int32Array[],
  names: NameTable,
  strings: PackedStrings,
  size: number,
): Uint16Array {
  const holders = shared(Uint16Array, size);
  const of = new Map<number, Set<number>>();
  for (const column of columns)
    for (let row = 0; row < column.length; row++) {
      const value = column[row] as number;
      if (!value) continue;
      const known = of.get(value);
      if (known) known.add(names.of[row] as number);
      else of.set(value, new Set([names.of[row] as number]));
    }
  const comparer = new NameComparer(names, strings);
  const relation = noRelation();
  for (const [value, all] of of) {
    const people: number[] = [];
    for (const name of all) {
      if (all.size > COMPARED) people.push(name);
      else if (
        !people.some((one) => {
          comparer.compare(one, name, relation);
          return relation.given === LEVEL.missing || agrees(relation.given);
        })
      )
        people.push(name);
    }
    holders[value] = people.length;
  }
  return holders;
}

/** Collects the features of a table row by row. */
export class FeatureBuilder {
  private readonly dictionary = new Dictionary();
  private readonly names = new NameBuilder(this.dictionary);
  private readonly values: number[][][];
  private readonly derived: number[][][];
  private rows = 0;
  private readonly caches = new Map<Kind, Map<string, { id: number; derived: number[] }>>();
  private readonly fields: Plan['fields'];

  constructor(private readonly plan: Plan) {
    this.fields = plan.fields.filter(({ kind }) => !isName(kind));
    this.values = this.fields.map((field) => field.columns.map(() => []));
    this.derived = this.fields.map(({ kind }) => Array.from({ length: DERIVED[kind] ?? 0 }, () => []));
  }

  add(row: readonly string[]): void {
    this.rows++;
    const [given, family] = this.nameOf(row);
    const mail = this.fields.find(({ kind }) => kind === 'email');
    this.names.add(given, family, mail ? (row[mail.columns[0] ?? -1] ?? '').toLowerCase() : '');
    for (const [at, { kind, columns }] of this.fields.entries())
      for (const [position, column] of columns.entries()) {
        const { id, derived } = this.noted(kind, row[column] ?? '');
        this.values[at]?.[position]?.push(id);
        if (position === 0)
          for (const [index, one] of derived.entries()) this.derived[at]?.[index]?.push(one);
      }
  }

  private nameOf(row: readonly string[]): [string, string] {
    const of = (kind: Kind): string => {
      const field = this.plan.fields.find((one) => one.kind === kind);
      const text = (row[field?.columns[0] ?? -1] ?? '').trim();
      return NOTHING.test(text) ? '' : text;
    };
    const whole = this.plan.fields.find((one) => one.fromFullName);
    return whole ? ['', of('given')] : [of('given'), of('family')];
  }

  private noted(kind: Kind, text: string): { id: number; derived: number[] } {
    let cache = this.caches.get(kind);
    if (!cache) this.caches.set(kind, (cache = new Map()));
    const known = cache.get(text);
    if (known) return known;
    const value = text ? normalize(kind, text) : '';
    const made = { id: this.dictionary.add(value), derived: this.derivedOf(kind, value, text) };
    cache.set(text, made);
    return made;
  }

  private derivedOf(kind: Kind, value: string, text: string): number[] {
    const add = (one: string): number => this.dictionary.add(one);
    if (kind === 'email') {
      const local = localPart(value).split('+')[0] ?? '';
      const isRole = value !== '' && isRoleName(local);
      return [
        add(isRole ? '' : local.replace(/[^\p{L}\p{N}]/gu, '')),
        value ? add(companyDomain(value) ?? '') : 0,
        isRole ? 1 : 0,
      ];
    }
    if (kind !== 'company') return [];
    if (!value) return [0, 0, 0];
    const { core, initials } = firmParts(text);
    const first = core.split(' ')[0] ?? '';
    return [
      add(`~${core}`),
      first.length > 2 ? add(`~${first}…`) : 0,
      isInitials(text) ? add(`~${fold(text)}.`) : initials ? add(`~${initials}.`) : 0,
    ];
  }

  finish(): Features {
    const list = (from: readonly number[]): Int32Array => {
      const array = shared(Int32Array, from.length);
      array.set(from);
      return array;
    };
    const names = this.names.finish();
    const size = this.dictionary.size;
    const strings = this.dictionary.pack();
    const fields = this.fields.map(({ kind, name }, at): FeatureField => {
      const values = (this.values[at] ?? []).map(list);
      const derived = (this.derived[at] ?? []).map(list);
      const counts = shared(Uint32Array, size);
      const counted = kind === 'email' ? [...values, ...derived.slice(0, 2)] : [...values, ...derived];
      for (const column of counted) for (const id of column) if (id) counts[id] = (counts[id] ?? 0) + 1;
      const isChannel = kind === 'email' || kind === 'phone';
      return {
        kind,
        name,
        values,
        derived,
        counts,
        holders: isChannel ? holdersOf(values, names, strings, size) : new Uint16Array(),
      };
    });
    return { rows: this.rows, names, fields, strings };
  }
}

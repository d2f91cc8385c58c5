import { DateTime } from 'luxon';
import { minorDigits } from '../lifecycle/minorUnits';
import { registryWith } from './registry/index';
import {
  choice,
  day,
  flag,
  number,
  money,
  several,
  text,
  time,
  TURNS,
  TALKS,
  user,
  yearly,
} from './registry/build';
import { runQuery } from './run';
import { startOfDay } from './time';
import type {
  Asking,
  Field,
  Filter,
  Group,
  KindSpec,
  Option,
  Order,
  PlainRecord,
  PlainValue,
  RecordKind,
  Registry,
} from './types';
import { asQuery, readQuestion } from './words/read';
import type { Vocabulary } from './words/state';
import { asTyped } from './words/tokens';

const KINDS = ['person', 'company', 'lead', 'deal', 'task'] as const;
/** Fields that a record of any kind may have in a file. */
const COMMON: readonly Field[] = [
  text('fullName', 'Name'),
  text('title', 'Title'),
  choice('standing', 'Standing'),
  text('stage', 'Stage'),
  user('owner', 'Owner'),
  text('team', 'Team'),
  text('companyName', 'Company'),
  text('industry', 'Industry'),
  number('employees', 'Employees'),
  text('city', 'City'),
  choice('country', 'Country'),
  several('tags', 'Tags'),
  text('source', 'Source'),
  time('createdAt', 'Added'),
  time('lastSpokenTo', 'Last spoken to'),
  number('daysQuiet', 'Days quiet'),
  choice('lastKind', 'Last contact by', { options: TALKS }),
  time('nextMoveDue', 'Next move due'),
  text('nextMoveTitle', 'Next move'),
  number('openDeals', 'Open deals'),
  money('openDealsMinor', 'Open deals value'),
  money('amountMinor', 'Value'),
  text('currency', 'Currency'),
  day('expectedClose', 'Expected close'),
  yearly('birthday', 'Birthday'),
  choice('turn', 'Turn', { options: TURNS }),
  text('email', 'Email'),
  text('phone', 'Phone'),
  text('jobTitle', 'Job title'),
  flag('important', 'Important'),
  flag('inactive', 'Inactive'),
];
const OWN = new Set(['status', 'due', 'done', 'standing', 'rating']);

/** What can be asked of records in a file. */
function registryOfFile(): Registry {
  const all = registryWith({});
  const specs = KINDS.map((kind): [RecordKind, KindSpec] => {
    const spec = all[kind];
    const own = [...spec.fields.values()].filter((field) => OWN.has(field.key));
    const fields = new Map([...COMMON, ...own].map((field) => [field.key, field]));
    return [
      kind,
      {
        ...spec,
        name: spec.name === 'companyName' ? 'companyName' : spec.name,
        fields,
        relations: new Map(),
      },
    ];
  });
  return { ...all, ...Object.fromEntries(specs) };
}

type Given = Record<string, unknown>;
const stringOf = (value: unknown): string | null =>
  typeof value === 'string' && value !== '' ? value : null;
const DAY = /^\d{4}-\d{2}-\d{2}$/;

const DONE = /^(?:done|finished|completed|closed)$/i;
function statusOf(given: Given): string | null {
  const status = stringOf(given.status)?.toLowerCase() ?? null;
  if (status || given.kind !== 'deal') return status;
  return /^(?:won|lost)\b/i.exec(stringOf(given.stage) ?? '')?.[0].toLowerCase() ?? 'open';
}

/** A line of a file as a plain record. */
function asPlain(given: Given, { zone, now }: Asking): PlainRecord {
  const at = (value: unknown): string | null => {
    const words = stringOf(value);
    if (!words) return null;
    return DAY.test(words)
      ? startOfDay(words, zone)
      : (DateTime.fromISO(words, { zone }).toUTC().toISO() ?? null);
  };
  const move = (typeof given.nextMove === 'object' && given.nextMove !== null ? given.nextMove : {}) as Given;
  const spoken = at(given.lastSpokenTo);
  const openMinor = typeof given.openDealsMinor === 'number' ? given.openDealsMinor : null;
  const same = Object.fromEntries(COMMON.map(({ key }) => [key, (given[key] ?? null) as PlainValue]));
  return {
    ...same,
    id: String(given.id),
    companyName:
      stringOf(given.companyName) ??
      (given.kind === 'company' ? (stringOf(given.fullName) ?? stringOf(given.title)) : null),
    standing: stringOf(given.standing)?.toLowerCase().replace(/_/g, ' ') ?? null,
    status: statusOf(given),
    done: DONE.test(stringOf(given.status) ?? ''),
    due: at(given.due ?? move.due),
    createdAt: at(given.createdAt),
    lastSpokenTo: spoken,
    daysQuiet: spoken === null ? null : Math.floor((Date.parse(now) - Date.parse(spoken)) / 86_400_000),
    nextMoveDue: at(move.due),
    nextMoveTitle: stringOf(move.title),
    openDeals: typeof given.openDeals === 'number' ? given.openDeals : openMinor ? 1 : 0,
    openDealsMinor: openMinor,
    turn: stringOf(given.turn)?.toLowerCase().replace(/'s$/, '') ?? null,
    lastKind: stringOf(given.lastKind)?.toLowerCase() ?? null,
    important: given.important === true,
    inactive: given.inactive === true,
  };
}

const optionsOf = (records: readonly PlainRecord[], field: string): Option[] => {
  const values = records.flatMap((record) => {
    const value = record[field];
    return (Array.isArray(value) ? value : [value]).filter(
      (one): one is string => typeof one === 'string' && one !== '',
    );
  });
  return [...new Set(values)].map((value) => ({ value, label: value }));
};
const FIELDS_OF_VALUES = ['industry', 'stage', 'tags', 'source', 'city', 'jobTitle', 'companyName', 'team'];

/** @returns the name as it stands in the records: the whole name, or the one that begins with it */
function findMe(users: readonly Option[], name: string | null): string | null {
  if (!name) return null;
  const wanted = asTyped(name);
  const found =
    users.find(({ label }) => asTyped(label) === wanted) ??
    users.find(({ label }) => asTyped(label).split(' ')[0] === wanted);
  return found?.value ?? name;
}

export interface Answer {
  conditions: Filter[];
  groups: Group[];
  order: Order[];
  notUnderstood: string[];
  ids: string[];
}

/**
 * Answers a question in plain words from records that are given.
 * @param question as it was typed
 * @param lines records as they stand in a file: `{"id", "kind", …}`
 * @param at ISO time with an offset, in which days begin; `me` a name as it stands in `owner`
 */
export function askRecords(
  question: string,
  lines: readonly Given[],
  { at, me }: { at: string; me: string | null },
): Answer {
  const local = DateTime.fromISO(at, { setZone: true });
  const zone = local.zoneName ?? 'UTC';
  const base: Asking = { now: local.toUTC().toISO() ?? at, zone, me: null, team: [] };
  const records = lines.map((line) => ({ kind: line.kind, record: asPlain(line, base) }));
  const all = records.map(({ record }) => record);
  const users = optionsOf(all, 'owner');
  const own = findMe(users, me);
  const teams = new Set(
    all.filter((record) => record.owner === own && record.team !== null).map((record) => record.team),
  );
  const team = optionsOf(
    all.filter((record) => teams.has(record.team)),
    'owner',
  ).map(({ value }) => value);
  const asking: Asking = { ...base, me: own, team: own && !team.includes(own) ? [...team, own] : team };
  const currency = optionsOf(all, 'currency')[0]?.value ?? 'EUR';
  const vocabulary: Vocabulary = {
    users: own && !users.some(({ value }) => value === own) ? [...users, { value: own, label: own }] : users,
    values: Object.fromEntries(FIELDS_OF_VALUES.map((field) => [field, optionsOf(all, field)])),
    perUnit: 10 ** minorDigits(currency),
  };
  const registry = registryOfFile();
  const kinds = KINDS.filter((kind) => records.some((one) => one.kind === kind));
  const read = readQuestion(question, {
    registry,
    vocabulary,
    asking,
    hint: kinds.length === 1 ? kinds[0] : undefined,
  });
  const asked = records.filter(({ kind }) => kind === read.kind).map(({ record }) => record);
  const { records: found } = runQuery(asQuery(read), asked, registry, asking);
  const { conditions, groups, order, notUnderstood } = read;
  return { conditions, groups, order, notUnderstood, ids: found.map(({ id }) => id) };
}

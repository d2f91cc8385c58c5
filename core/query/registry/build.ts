import type { Field, FieldType, KindSpec, Option, RecordKind, Relation } from '../types';

type More = Omit<Partial<Field>, 'key' | 'label' | 'type'>;
const of =
  (type: FieldType) =>
  (key: string, label: string, more: More = {}): Field => ({ key, label, type, ...more });
export const text = of('text');
export const choice = of('choice');
export const several = of('several');
export const user = of('user');
export const number = of('number');
export const money = of('money');
export const day = of('day');
export const time = of('time');
export const yearly = of('yearly');
export const flag = of('flag');
const place = of('place');
export const reckoned = (field: Field): Field => ({ ...field, isReckoned: true });

/** With a capital first, as a value stands alone. */
export const upper = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
/** Options whose value is what they are called. */
export const options = (values: readonly string[]): Option[] =>
  values.map((value) => ({ value, label: upper(value) }));

export const one = (key: string, label: string, to: RecordKind): Relation => ({
  key,
  label,
  to,
  isMany: false,
});
export const many = (key: string, label: string, to: RecordKind): Relation => ({
  key,
  label,
  to,
  isMany: true,
});

export const kind = (
  names: Pick<KindSpec, 'kind' | 'one' | 'many' | 'name'>,
  fields: readonly Field[],
  relations: readonly Relation[],
): KindSpec => ({
  ...names,
  fields: new Map(fields.map((field) => [field.key, field])),
  relations: new Map(relations.map((relation) => [relation.key, relation])),
});

/** Where somebody is on the map, as far as their address says. */
export const PLACE = [reckoned(place('place', 'Location'))] as const;
export const OWNER = [user('owner', 'Owner', { words: ['rep'] }), text('team', 'Team')] as const;
export const TURNS = options(['ours', 'theirs', 'nobody']);
export const TALKS = options(['mail', 'call', 'meeting', 'visit']);
/** What is said with somebody, and what comes next. */
export const CONTACT = [
  reckoned(time('lastSpokenTo', 'Last spoken to', { words: ['spoken', 'talked'] })),
  reckoned(time('lastTouched', 'Last touched', { words: ['touched', 'contacted'] })),
  reckoned(number('daysQuiet', 'Days quiet', { unit: 'days' })),
  reckoned(choice('lastKind', 'Last contact by', { options: TALKS })),
] as const;
export const NEXT_MOVE = [
  reckoned(time('nextMoveDue', 'Next move due', { words: ['next move', 'next step'] })),
  reckoned(text('nextMoveTitle', 'Next move')),
] as const;
/** Whether colleagues entered something since whoever asks looked at it last. */
export const NEWS = reckoned(flag('newForMe', 'New for me'));
export const OPEN_DEALS = [
  reckoned(number('openDeals', 'Open deals', { words: ['open deal'] })),
  reckoned(money('openDealsMinor', 'Open deals value')),
] as const;
export const FIRM = [
  text('companyName', 'Company'),
  text('industry', 'Industry'),
  number('employees', 'Employees'),
  text('city', 'City', { words: ['town'] }),
  choice('country', 'Country'),
] as const;
export const MADE = [
  time('createdAt', 'Added', { words: ['created'] }),
  time('updatedAt', 'Changed'),
] as const;

import { isGroupable, isSortable } from '../operators';
import type { Field, Group, Order, Unit } from '../types';
import { anyOf, asTyped } from './tokens';
import { words, type Rule, type State } from './state';

/** What fields are called where things are grouped or put in order. */
const CALLED: Record<string, string> = {
  owner: 'owner',
  rep: 'owner',
  person: 'fullName',
  name: 'name',
  alphabet: 'name',
  country: 'country',
  countries: 'country',
  city: 'city',
  town: 'city',
  company: 'companyName',
  firm: 'companyName',
  industry: 'industry',
  sector: 'industry',
  standing: 'standing',
  status: 'status',
  stage: 'stage',
  source: 'source',
  team: 'team',
  'job title': 'jobTitle',
  title: 'jobTitle',
  role: 'jobTitle',
  turn: 'turn',
  size: 'employees',
  employees: 'employees',
  'number of employees': 'employees',
  value: 'amountMinor',
  amount: 'amountMinor',
  'deal value': 'amountMinor',
  'open deals value': 'openDealsMinor',
  'open deal value': 'openDealsMinor',
  'value of open deals': 'openDealsMinor',
  'open deals': 'openDeals',
  'number of open deals': 'openDeals',
  birthday: 'birthday',
  'close date': 'expectedClose',
  'closing date': 'expectedClose',
  'expected close': 'expectedClose',
  'next move': 'nextMoveDue',
  'next step': 'nextMoveDue',
  'due date': 'due',
  'last spoken to': 'lastSpokenTo',
  'last spoken': 'lastSpokenTo',
  'last contact': 'lastSpokenTo',
  'last contacted': 'lastSpokenTo',
  'last talk': 'lastSpokenTo',
  added: 'createdAt',
  created: 'createdAt',
  'date added': 'createdAt',
  'creation date': 'createdAt',
  currency: 'currency',
  priority: 'priority',
  rating: 'rating',
  urgency: 'urgency',
  important: 'important',
  warmth: 'warmth',
  fit: 'fit',
  'win chance': 'winChance',
  probability: 'winChance',
  'days in stage': 'daysInStage',
  'last kind': 'lastKind',
  'kind of last contact': 'lastKind',
};
const FIRST_DATES: Partial<Record<string, string>> = {
  deal: 'expectedClose',
  task: 'due',
  entry: 'at',
  case: 'openedAt',
  capture: 'receivedAt',
};

/** Fields by what they are called, their labels among it. */
function callable(state: State): Map<string, Field> {
  const known = new Map<string, Field>();
  for (const [called, key] of Object.entries(CALLED)) {
    const own =
      key === 'name' ? state.spec.name : key === 'amountMinor' && !state.has(key) ? 'openDealsMinor' : key;
    const field = state.spec.fields.get(own);
    if (field) known.set(called, field);
  }
  for (const field of state.spec.fields.values())
    for (const called of [field.label, ...(field.words ?? [])])
      if (!known.has(asTyped(called))) known.set(asTyped(called), field);
  return known;
}

const UNIT = '(?<unit>day|week|month|quarter|year)';
function readGroup(state: State): Group | null {
  const known = callable(state);
  const start = state.at;
  const unit = state.take(words(`(?:the )?${UNIT}(?: (?:of|they were|when|by)(?: the)?)?`));
  const found = state.take(
    words(`(?:the )?(?<name>${anyOf(known.keys())})(?: (?:by )?(?<by>day|week|month|quarter|year))?`),
  );
  const by = (unit?.unit ?? found?.by) as Unit | undefined;
  if (!found) {
    const first = FIRST_DATES[state.kind] ?? 'createdAt';
    if (by && state.has(first)) return { field: first, by };
    state.at = start;
    return null;
  }
  const field = known.get(found.name ?? '');
  if (!field || !isGroupable(field.type)) {
    state.at = start;
    return null;
  }
  const isTime = field.type === 'day' || field.type === 'time';
  if (found.name === 'alphabet') return { field: field.key, by: 'letter' };
  if (isTime) return { field: field.key, by: by ?? 'month' };
  if (!by) return { field: field.key };
  // "By owner week" is no one thing.
  state.at = start;
  return null;
}

const BY = words(
  '(?:(?:grouped|group|split|broken down|arranged|broken up|per) ?(?:first )?by|grouped|by|per|for each|in groups (?:of|by))',
);
const THEN = words('(?:and then|then|and|,) ?(?:by |per )?');
export const groups: Rule = (state) => {
  const start = state.at;
  if (!state.take(BY)) return null;
  const found: Group[] = [];
  for (let group = readGroup(state); group; group = readGroup(state)) {
    found.push(group);
    const before = state.at;
    if (!state.take(THEN)) break;
    const next = state.at;
    const more = readGroup(state);
    state.at = more ? next : before;
    if (!more) break;
  }
  if (found.length) return { what: 'group', groups: found };
  state.at = start;
  return null;
};

const SORTED = words('(?:(?:sorted|sort|ordered|order|ranked|rank|in order)(?: them)? ?(?:by|of))');
const DOWN = words(
  '(?:descending|desc|downwards|(?:highest|largest|biggest|newest|latest|most recent|most|longest) first|high to low|z to a)',
);
const UP = words(
  '(?:ascending|asc|upwards|(?:lowest|smallest|oldest|earliest|soonest|least|shortest) first|low to high|a to z)',
);
const direction = (state: State, fallback: Order['direction']): Order['direction'] =>
  state.take(DOWN) ? 'desc' : state.take(UP) ? 'asc' : fallback;

const sumOf = (state: State): string =>
  state.has('amountMinor') && state.kind === 'deal'
    ? 'amountMinor'
    : state.kind === 'company' && !state.has('openDealsMinor')
      ? 'employees'
      : 'openDealsMinor';
const NOUNS_AHEAD =
  '(?= (?:open |won |lost )?(?:deals?|opportunit|leads?|tasks?|prospects?|customers?|people|companies)\\b)';
const FIRST: readonly (readonly [RegExp, (state: State) => Order])[] = [
  [
    words(
      '(?:longest (?:silence|quiet)|quietest|longest silent|least recently spoken(?: to)?|longest not spoken to|oldest contact) first',
    ),
    () => ({ field: 'lastSpokenTo', direction: 'asc' }),
  ],
  [
    words('(?:most recently|latest|last) (?:spoken(?: to)?|contacted) first'),
    () => ({ field: 'lastSpokenTo', direction: 'desc' }),
  ],
  [
    words(
      '(?:largest|biggest|highest|most valuable|highest value|largest value|biggest value)(?: deals?| value| amount| leads?| companies| people)? first',
    ),
    (state) => ({ field: sumOf(state), direction: 'desc' }),
  ],
  [
    words('(?:smallest|lowest|lowest value|smallest value)(?: deals?| value| amount)? first'),
    (state) => ({ field: sumOf(state), direction: 'asc' }),
  ],
  [
    words(
      '(?:most recent|newest|latest|last added|most recently added)(?: (?:deals?|leads?|companies|people|ones|prospects|customers|tasks))? first',
    ),
    () => ({ field: 'createdAt', direction: 'desc' }),
  ],
  [
    words('(?:oldest|earliest)(?: (?:deals?|leads?|companies|people|ones|prospects|customers|tasks))? first'),
    () => ({ field: 'createdAt', direction: 'asc' }),
  ],
  [words('(?:longest waiting|waiting longest) first'), () => ({ field: 'turnSince', direction: 'asc' })],
  [words(`oldest${NOUNS_AHEAD}`), () => ({ field: 'createdAt', direction: 'asc' })],
  [words(`(?:newest|latest|most recent)${NOUNS_AHEAD}`), () => ({ field: 'createdAt', direction: 'desc' })],
  [words(`(?:largest|biggest)${NOUNS_AHEAD}`), (state) => ({ field: sumOf(state), direction: 'desc' })],
  [words(`smallest${NOUNS_AHEAD}`), (state) => ({ field: sumOf(state), direction: 'asc' })],
  [
    words('(?:soonest|most urgent|earliest due) first'),
    (state) => ({
      field: state.kind === 'deal' ? 'expectedClose' : state.kind === 'task' ? 'due' : 'nextMoveDue',
      direction: 'asc',
    }),
  ],
  [
    words('alphabetically|in alphabetical order|a to z|by alphabet'),
    (state) => ({ field: state.spec.name, direction: 'asc' }),
  ],
];
export const order: Rule = (state) => {
  for (const [pattern, make] of FIRST) {
    const start = state.at;
    if (!state.take(pattern)) continue;
    const made = make(state);
    if (state.has(made.field)) return { what: 'order', order: [made] };
    state.at = start;
  }
  const start = state.at;
  if (!state.take(SORTED)) return null;
  const known = callable(state);
  const found: Order[] = [];
  let readTo = state.at;
  do {
    const called = state.take(words(`(?:the )?(?<name>${anyOf(known.keys())})`));
    const field = called && known.get(called.name ?? '');
    if (!field || !isSortable(field.type)) break;
    state.take(/, /y);
    found.push({ field: field.key, direction: direction(state, 'asc') });
    readTo = state.at;
  } while (state.take(words('(?:and then|then|and) ?(?:by )?')));
  state.at = readTo;
  if (found.length) return { what: 'order', order: found };
  state.at = start;
  return null;
};

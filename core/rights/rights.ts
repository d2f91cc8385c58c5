/** What can be done with the records of an area. Deals, leads and companies are not deleted: they are closed, dropped or merged. */
export const ACTIONS = ['see', 'add', 'change', 'delete', 'export', 'bulk'] as const;
export type Action = (typeof ACTIONS)[number];

const ACTIONS_OF_AREA = {
  people: ['see', 'add', 'change', 'delete', 'export', 'bulk'],
  companies: ['see', 'add', 'change', 'export', 'bulk'],
  leads: ['see', 'add', 'change', 'export', 'bulk'],
  deals: ['see', 'add', 'change', 'export', 'bulk'],
  tasks: ['see', 'add', 'change', 'delete', 'export', 'bulk'],
  projects: ['see', 'add', 'change', 'export'],
  ledger: ['see', 'add', 'change', 'delete', 'export'],
  captures: ['see', 'add', 'change', 'export'],
} as const satisfies Record<string, readonly Action[]>;

type Actions = typeof ACTIONS_OF_AREA;
export type RecordArea = keyof Actions;
export type RecordRight = { [Area in RecordArea]: `${Area}.${Actions[Area][number]}` }[RecordArea];

/** Users, roles and sign-in are not among them: whoever could change those could give themselves everything. */
export const SETTING_AREAS = ['organisation', 'fields', 'scoring', 'deals', 'channels', 'data'] as const;
export type SettingArea = (typeof SETTING_AREAS)[number];
export type Right = RecordRight | `settings.${SettingArea}`;

export const RECORD_AREAS = Object.keys(ACTIONS_OF_AREA) as RecordArea[];
/** What can be allowed or not in an area, in the order in which it is shown. */
export const actionsOf = (area: RecordArea): readonly Action[] => ACTIONS_OF_AREA[area];

/** Every right there is, by area. */
export const RIGHTS: readonly Right[] = [
  ...RECORD_AREAS.flatMap((area) => actionsOf(area).map((action) => `${area}.${action}` as Right)),
  ...SETTING_AREAS.map((area) => `settings.${area}` as const),
];
const KNOWN: ReadonlySet<string> = new Set(RIGHTS);
export const isRight = (word: string): word is Right => KNOWN.has(word);

export type BuiltInRole = 'rep' | 'manager' | 'admin';
const ONLY_MANAGERS: ReadonlySet<Right> = new Set([
  'people.delete',
  ...SETTING_AREAS.map((area) => `settings.${area}` as const),
]);
const ONLY_ADMINS: ReadonlySet<Right> = new Set(['settings.data']);

/** What the roles that are always there may do. */
export const RIGHTS_OF: Readonly<Record<BuiltInRole, ReadonlySet<Right>>> = {
  rep: new Set(RIGHTS.filter((right) => !ONLY_MANAGERS.has(right))),
  manager: new Set(RIGHTS.filter((right) => !ONLY_ADMINS.has(right))),
  admin: new Set(RIGHTS),
};

/** Whoever acts: a role that is always there, and the rights of a role of the organisation's own where they have one. */
export interface Holder {
  role: BuiltInRole;
  granted?: readonly Right[] | null;
}

export const mayDo = ({ role, granted }: Holder, right: Right): boolean =>
  granted ? granted.includes(right) : RIGHTS_OF[role].has(right);

/** The record areas of which somebody sees nothing. */
export const unseenBy = (holder: Holder): RecordArea[] =>
  RECORD_AREAS.filter((area) => !mayDo(holder, `${area}.see`));

/** What a right is of no use without: what is changed or handed over is seen; many are changed by whoever may change one. */
function needsOf(right: Right): Right[] {
  if (right === 'settings.data') return ['people.delete'];
  const [area = '', action = ''] = right.split('.');
  if (!(area in ACTIONS_OF_AREA) || action === 'see') return [];
  const needs = action === 'bulk' ? ['see', 'change'] : ['see'];
  return needs.map((one) => `${area}.${one}`).filter(isRight);
}

/** A right with all that it needs. */
const withNeeds = (right: Right): Right[] => [right, ...needsOf(right).flatMap(withNeeds)];

/** Rights as a role keeps them: each once, in order, without what does not exist, and with what each needs. */
export function completeRights(given: readonly string[]): Right[] {
  const held = new Set(given.filter(isRight).flatMap(withNeeds));
  return RIGHTS.filter((right) => held.has(right));
}

/** What is left where one right is taken away, and with it what needs it. */
export const withoutRight = (given: readonly Right[], gone: Right): Right[] =>
  given.filter((right) => !withNeeds(right).includes(gone));

const NOUNS: Readonly<Record<RecordArea, string>> = {
  people: 'people',
  companies: 'companies',
  leads: 'leads',
  deals: 'deals',
  tasks: 'tasks',
  projects: 'projects and cases',
  ledger: 'the history',
  captures: 'what is in Arrivals',
};
const VERBS: Readonly<Record<Action, string>> = {
  see: 'see',
  add: 'add',
  change: 'change',
  delete: 'delete',
  export: 'export',
  bulk: 'bulk-change',
};
const SETTINGS: Readonly<Record<SettingArea, string>> = {
  organisation: 'the settings of the organisation',
  fields: 'fields, tags and lists',
  scoring: 'the scoring',
  deals: 'the settings of deals',
  channels: 'forms and look-ups',
  data: 'keeping times',
};
const EXCEPTIONS: Partial<Record<Right, string>> = {
  'people.delete': 'erase people',
  'ledger.add': 'add to the history',
  'captures.add': 'add to Arrivals',
};

/** A right as it reads after “may”: “export people”, “change the scoring”. */
export function describeRight(right: Right): string {
  const [area = '', action = ''] = right.split('.');
  if (area === 'settings') return `change ${SETTINGS[action as SettingArea]}`;
  return EXCEPTIONS[right] ?? `${VERBS[action as Action]} ${NOUNS[area as RecordArea]}`;
}

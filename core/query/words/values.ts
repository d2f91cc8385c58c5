import type { Filter } from '../types';
import { COUNTRIES } from './places';
import { anyOf, asTyped } from './tokens';
import { byForm, condition, words, type Rule, type Said } from './state';

const list = (field: string, value: string): Said => condition({ field, op: 'is', value: [value] }, field);

const IN =
  '(?:(?:who |that |which )?(?:are |is |live |lives |work |works )?(?:based in|located in|living in|in|from|of|at|across|country(?: is)?) (?:the )?)?';
const COUNTRY = words(`${IN}(?<name>${anyOf(COUNTRIES.keys())})`);
const OUTSIDE = words(
  `(?:outside(?: of)?|not (?:in|from|based in)|anywhere but|except(?: in)?|excluding) (?:the )?(?<name>${anyOf(COUNTRIES.keys())})`,
);
export const country: Rule = (state) => {
  if (!state.has('country')) return null;
  const outside = state.take(OUTSIDE);
  if (outside)
    return condition(
      { field: 'country', op: 'isNot', value: [COUNTRIES.get(outside.name ?? '') ?? ''] },
      'not country',
    );
  const found = state.take(COUNTRY);
  return found && list('country', COUNTRIES.get(found.name ?? '') ?? '');
};

const RATING = words('(?<rating>hot|warm|cold)(?= leads?)');
const ACTIVE: readonly (readonly [RegExp, Filter])[] = [
  [
    words(
      '(?:including|include|also|even|plus|with)(?: the)? inactive(?: (?:ones|people))?|(?:active or inactive|active and inactive)',
    ),
    {
      any: [
        { field: 'inactive', op: 'is', value: true },
        { field: 'inactive', op: 'is', value: false },
      ],
    },
  ],
  [words('(?:no longer active|not active|inactive)'), { field: 'inactive', op: 'is', value: true }],
  [words('active'), { field: 'inactive', op: 'is', value: false }],
];
const FLAGS: readonly (readonly [RegExp, Filter])[] = [
  [
    words('(?:(?:with |that have |have )?(?:something |anything )?new(?:s)? (?:for|to) (?:me|us)|with news)'),
    { field: 'newForMe', op: 'is', value: true },
  ],
  [words('(?:not|un)[ -]?important'), { field: 'important', op: 'is', value: false }],
  [words('(?:marked (?:as )?)?(?:important|vips?)'), { field: 'important', op: 'is', value: true }],
  [
    words('(?:with )?(?:a )?(?:possible |likely )?(?:duplicates?|look-alikes?)(?: pending)?'),
    { field: 'lookAlike', op: 'is', value: true },
  ],
];
export const flags: Rule = (state) => {
  const rating = state.has('rating') ? state.take(RATING) : null;
  if (rating) return list('rating', rating.rating ?? '');
  for (const [pattern, filter] of state.has('inactive') ? ACTIVE : [])
    if (state.take(pattern)) return condition(filter);
  // A tag of that name is what is meant by its name.
  const isTag = (state.vocabulary.values.tags ?? []).some(({ label }) => asTyped(label) === 'vip');
  for (const [pattern, filter] of FLAGS)
    if (
      'field' in filter &&
      state.has(filter.field) &&
      !(isTag && /\bvips?\b/y.test(state.flat.slice(state.at))) &&
      state.take(pattern)
    )
      return condition(filter);
  return null;
};

/** Fields whose values may be named without them, in the order in which a name is theirs. */
const NAMED = [
  'industry',
  'stage',
  'pipeline',
  'tags',
  'source',
  'city',
  'jobTitle',
  'companyName',
  'priority',
  'taskKind',
  'urgency',
  'lists',
] as const;
const LEAD_INS: Record<(typeof NAMED)[number], string> = {
  industry: '(?:in )?(?:the )?(?:industry (?:is |of )?)?',
  stage: '(?:(?:that |which )?(?:are |is )?(?:in|at) )?(?:the )?(?:stage (?:is )?)?',
  pipeline: '(?:in )?(?:the )?(?:pipeline (?:is )?)?',
  tags: '(?:(?:that |who |which )?(?:are |is )?(?:tagged(?: as| with)?|(?:with |has |have |having )?(?:the )?tags?(?: is)?|labelled) )?',
  source:
    '(?:(?:that |who |which )?(?:came |come )?(?:in )?(?:from|via|by|through|source(?: is)?|with source) )?(?:the |a |an )?',
  city: '(?:(?:based |located |living )?(?:in|from|city(?: is)?) )?',
  jobTitle: '(?:(?:whose |with )?(?:job )?title(?: is)? |who are |working as )?(?:the |an? )?',
  companyName: '(?:(?:who )?(?:work |works |working )?(?:at|of|for|with|from) |company(?: is)? )?',
  priority: '(?:(?:with |of )?priority(?: is)? )?',
  taskKind: '',
  urgency: '',
  lists: '(?:on )?(?:the )?(?:list )?',
};
const FOLLOWING: Partial<Record<(typeof NAMED)[number], string>> = {
  industry: '(?: (?:industry|sector|business|businesses|trade))?',
  stage: '(?: stage)?',
  tags: '(?: tag)?',
  source: '(?: source)?',
  priority: '(?:[ -]priority)?',
  lists: '(?: list)?',
};
/** The values with a lead-in are looked for first, so that "tagged bakery" is the tag and not the industry. */
export const named: Rule = (state) => {
  let best: { end: number; said: Said; isNamed: boolean } | null = null;
  const start = state.at;
  for (const field of NAMED) {
    const options = [
      ...(state.spec.fields.get(field)?.options ?? []),
      ...(state.vocabulary.values[field] ?? []),
    ];
    if (!state.has(field) || !options.length) continue;
    const { values, pattern } = byForm(options);
    state.at = start;
    const found = state.take(
      words(`(?<in>${LEAD_INS[field]})(?<value>${pattern})(?<after>${FOLLOWING[field] ?? ''})`),
    );
    const value = found && values.get(found.value ?? '');
    if (!found || value === undefined || value === null) continue;
    const isNamed = /tag|source|via|industry|sector|title|company|stage|city|list|priority|\bat\b/.test(
      `${found.in ?? ''}${found.after ?? ''}`,
    );
    if (value === 'task') continue;
    const goesOn = state.goesOn === field;
    if (!best || goesOn || (isNamed && !best.isNamed)) {
      const said: Said = ['tags', 'lists'].includes(field)
        ? condition({ field, op: 'hasAny', value: [value] }, field)
        : list(field, value);
      best = { end: state.at, said, isNamed: isNamed || goesOn };
    }
  }
  state.at = best?.end ?? start;
  return best?.said ?? null;
};

/** "Managers": people with that word in their title, where titles here have it. */
const PLURAL = words('(?<word>\\p{L}{4,}s)');
export const titleWord: Rule = (state) => {
  const titles = state.has('jobTitle') ? (state.vocabulary.values.jobTitle ?? []) : [];
  const start = state.at;
  const word = titles.length ? state.take(PLURAL)?.word?.replace(/s$/, '') : undefined;
  if (word && titles.some(({ label }) => asTyped(label).split(' ').includes(word)))
    return condition({ field: 'jobTitle', op: 'contains', value: [word] });
  state.at = start;
  return null;
};

const CALLED = words(
  "(?:(?:who |that |which )?(?:are |is )?(?:named|called)|(?:with |whose )?(?:the )?name(?: is| contains)?)(?! (?:today|yesterday|this|last|since|in|on|before|after|within|over|by|nor|or|and)\\b) (?<name>[\\p{L}'.-]+)",
);
export const nameIs: Rule = (state) => {
  const start = state.at;
  const found = state.take(CALLED);
  if (found?.name && state.has(state.spec.name))
    return condition({ field: state.spec.name, op: 'contains', value: [found.name] });
  state.at = start;
  return null;
};
const TITLE = words(
  "(?:(?:whose |with )?(?:a )?job title|title) (?:contains|containing|including|has|with|starts with|starting with|like) (?<value>[\\p{L}'-]+)",
);
export const titleContains: Rule = (state) => {
  const found = state.has('jobTitle') ? state.take(TITLE) : null;
  const op = found?.all?.includes('start') ? 'startsWith' : 'contains';
  return found && condition({ field: 'jobTitle', op, value: [found.value ?? ''] });
};

const FIELDS: Record<string, string> = {
  'e-?mail(?: address(?:es)?)?s?': 'email',
  '(?:phone|mobile|telephone)(?: numbers?)?s?': 'phone',
  'job titles?': 'jobTitle',
  'compan(?:y|ies)': 'companyName',
  'sources?': 'source',
  'tags?': 'tags',
  'industr(?:y|ies)': 'industry',
  'cit(?:y|ies)': 'city',
  'countr(?:y|ies)': 'country',
  employees: 'employees',
  'value|amount': 'amountMinor',
  'domain|website': 'domain',
  background: 'background',
  rating: 'rating',
  'owners?|reps?': 'owner',
  'next moves?|next steps?': 'nextMoveDue',
  'birthdays?': 'birthday',
};
const UNTAGGED = words('untagged|not tagged(?: at all)?(?! \\S)');
const keyOf = (called: string): string | undefined =>
  Object.entries(FIELDS).find(([pattern]) => new RegExp(`^(?:${pattern})$`).test(called))?.[1];
const MORE_FIELDS = words(
  `(?<and>,|and|or|nor) (?:an? |any |no |a known )?(?<field>${Object.keys(FIELDS).join('|')})(?! (?:in|at|of|is))`,
);
const WITH_FIELD = words(
  `(?:(?:who|that|which) )?(?<sign>with(?: an?| any| their)?|has(?: an?)?|have(?: an?)?|having(?: an?)?|without(?: an?y?| their)?|(?:(?:with|has|have|having) )?no(?: known)?|missing(?: an?| their)?|lacking(?: an?)?|whose)? ?(?<field>${Object.keys(FIELDS).join('|')})(?<is> (?:is |are )?(?:missing|empty|unknown|known|filled in|not known))?`,
);
export const filled: Rule = (state) => {
  const start = state.at;
  if (state.has('tags') && state.take(UNTAGGED)) return condition({ field: 'tags', op: 'empty' });
  const found = state.take(WITH_FIELD);
  const key = found && keyOf(found.field ?? '');
  if (
    !found ||
    !key ||
    !state.has(key) ||
    (!found.sign && !found.is) ||
    (found.sign === 'whose' && !found.is)
  ) {
    state.at = start;
    return null;
  }
  const isNone =
    /without|no\b|missing|lacking/.test(found.sign ?? '') ||
    /missing|empty|unknown|not known/.test(found.is ?? '');
  const op = isNone ? 'empty' : 'filled';
  const parts: Filter[] = [{ field: key, op }];
  let isEither = false;
  // "With an email or a phone" is one of them; "without tags or owner" is neither.
  for (let more = state.take(MORE_FIELDS); more; more = state.take(MORE_FIELDS)) {
    const next = keyOf(more.field ?? '');
    if (next && state.has(next)) parts.push({ field: next, op });
    isEither ||= more.and === 'or' && !isNone;
  }
  return condition(parts.length === 1 ? (parts[0] as Filter) : isEither ? { any: parts } : { all: parts });
};

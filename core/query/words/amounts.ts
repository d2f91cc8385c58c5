import type { Filter, Operator } from '../types';
import { NUMBER, readNumber } from './tokens';
import { condition, State, words, type Rule } from './state';

const MONEY = `(?:[€$£]|eur|euros?|usd|gbp|dollars?|pounds?)?\\s?(?<a>${NUMBER})(?:\\s?(?:[€$£]|eur|euros?|usd|gbp|dollars?|pounds?|k))?`;
const SECOND = MONEY.replace('<a>', '<b>');
const COMPARED = `(?<op>over|above|more than|greater than|bigger than|larger than|exceeding|higher than|under|below|less than|fewer than|smaller than|lower than|at least|no less than|a minimum of|minimum|at most|no more than|up to|a maximum of|exactly|between|of)`;
const AMOUNT = `(?:${COMPARED} )?${MONEY}(?<more> ?\\+| or (?:more|above|over|higher)(?! [€$£]?\\d)| and (?:over|above|up|more)(?! [€$£]?\\d)| or (?:less|fewer|under)(?! [€$£]?\\d))?(?:(?<to> and| to) ${SECOND})?`;

const OPERATORS: readonly (readonly [RegExp, Operator])[] = [
  [/^(?:over|above|more|greater|bigger|larger|exceeding|higher)/, 'over'],
  [/^(?:under|below|less|fewer|smaller|lower)/, 'under'],
  [/^(?:at least|no less|a minimum|minimum)/, 'atLeast'],
  [/^(?:at most|no more|up to|a maximum)/, 'atMost'],
];

/** A number as it is compared; null where the words give none, or two that do not belong together. */
function compared(
  found: Record<string, string | undefined>,
  perUnit: number,
): { op: Operator; value: number | number[] } | null {
  const { op = '', a = '', b, more } = found;
  const first = readNumber(a) * perUnit;
  if (Number.isNaN(first)) return null;
  if (op === '' && b !== undefined && found.to === ' to')
    return { op: 'between', value: [first, readNumber(b) * perUnit] };
  if (op === 'between')
    return b === undefined ? null : { op: 'between', value: [first, readNumber(b) * perUnit] };
  if (b !== undefined) return null;
  if (more) return { op: /less|fewer|under/.test(more) ? 'atMost' : 'atLeast', value: first };
  return { op: OPERATORS.find(([pattern]) => pattern.test(op))?.[1] ?? 'is', value: first };
}

const WITH = '(?:(?:who|that|which) )?(?:with|has|have|having|whose)';
const NO = '(?<no>no|without(?: an?y?)?|lacking(?: an?y?)?|missing(?: an?)?|with no|(?:has|have|having) no)';
const DEALS = words(
  `(?:${NO} |${WITH} )?(?:(?:(?<op>at least|more than|over|fewer than|less than|exactly|at most) )?(?<a>${NUMBER})(?<more> or more| or fewer)? )?(?:an |any |a |some )?open (?<noun>deals?|opportunit(?:y|ies)|deal value|pipeline)(?: (?:is|are|totalling|total|worth|valued at|sum))?`,
);
const WORTH = words(AMOUNT);

/** Open deals of somebody: whether there are, how many, how much. */
export const openDeals: Rule = (state) => {
  if (!state.has('openDeals') || state.kind === 'deal') return null;
  const start = state.at;
  const found = state.take(DEALS);
  if (!found) return null;
  const isCount = found.a !== undefined && !/^an?$/.test(found.a);
  const before = state.at;
  const worth = isCount ? null : state.take(WORTH);
  if (found.no) {
    state.at = before;
    return condition({ field: 'openDeals', op: 'is', value: 0 });
  }
  if (worth && (worth.op ?? worth.more)) {
    const amount = compared(worth, state.vocabulary.perUnit);
    if (amount) return condition(ofDeals(state, found.noun ?? '', amount));
  }
  state.at = before;
  if (isCount) {
    const count = compared({ ...found, op: found.op ?? '' }, 1);
    if (count) return condition({ field: 'openDeals', ...count });
    state.at = start;
    return null;
  }
  return condition({ field: 'openDeals', op: 'over', value: 0 });
};

const COMPANY = words(
  '(?:whose|(?:with|of) an?) (?:company|firm|employer)(?: (?:has|have|with|is|are|that has))?',
);
/** "People whose company has an open deal over 20k". */
export const theirCompany: Rule = (state) => {
  const start = state.at;
  const relation = state.spec.relations.get('company');
  if (!relation || !state.take(COMPANY)) return null;
  const inner = new State(
    state.flat,
    state.registry[relation.to],
    state.registry,
    state.vocabulary,
    state.asking,
  );
  inner.at = state.at;
  const said = openDeals(inner) ?? counted(inner);
  if (said?.what !== 'condition') {
    state.at = start;
    return null;
  }
  state.at = inner.at;
  return condition({ relation: 'company', has: 'any', where: said.filter });
};

/** One deal over a sum is one of their deals; several are their sum. */
function ofDeals(state: State, noun: string, amount: { op: Operator; value: number | number[] }): Filter {
  const isOne = /^(?:deal|opportunity)$/.test(noun);
  if (!isOne || !state.spec.relations.has('deals')) return { field: 'openDealsMinor', ...amount };
  return {
    relation: 'deals',
    has: 'any',
    where: {
      all: [
        { field: 'status', op: 'is', value: ['open'] },
        { field: 'amountMinor', ...amount },
      ],
    },
  };
}

interface Counted {
  field: string;
  noun: string;
  perUnit?: 'money';
}
const COUNTED: readonly Counted[] = [
  { field: 'employees', noun: 'employees|staff|people|heads' },
  { field: 'winChance', noun: '(?:win )?(?:chance|probability)(?: of winning)?' },
  { field: 'daysInStage', noun: 'days in (?:the |this |their |its )?stage' },
  { field: 'daysQuiet', noun: 'days quiet|quiet days' },
  { field: 'callsThisMonth', noun: 'calls this month' },
  { field: 'peopleCount', noun: 'people|contacts' },
  { field: 'warmth', noun: 'warmth' },
  { field: 'fit', noun: 'fit' },
  { field: 'amountMinor', noun: '(?:value|amount|worth|valued|size)', perUnit: 'money' },
  {
    field: 'openDealsMinor',
    noun: 'open deals? value|value of open deals|pipeline(?: value)?',
    perUnit: 'money',
  },
];
const PATTERNS = COUNTED.map((counted) => ({
  ...counted,
  after: words(`(?:${WITH} )?(?:a |an )?(?:${counted.noun})(?: (?:is|of|at))? ${AMOUNT}%?`),
  before: words(`(?:${WITH} )?(?:an? )?${AMOUNT}%? (?:${counted.noun})`),
}));
/** The people of a company are its employees; elsewhere the word has to be said. */
const SAYS_STAFF = /\b(?:employees|staff)\b/;
const BARE = words(
  `(?:worth |of )?${AMOUNT}(?! ?(?:%|days?|weeks?|months?|years?|employees|people|or more (?:days|weeks|months)))`,
);

/** Numbers that name their field: "over 50 employees", "win chance over 50%", "worth more than 20k". */
export const counted: Rule = (state) => {
  for (const { field, perUnit, after, before } of PATTERNS) {
    if (
      !state.has(field) ||
      (field === 'employees' && state.kind !== 'company' && !SAYS_STAFF.test(state.flat))
    )
      continue;
    const start = state.at;
    const found = state.take(after) ?? state.take(before);
    const isNumber = found && (found.op ?? found.more ?? (/^\d/.test(found.a ?? '') ? '' : null)) !== null;
    const amount = found && isNumber && compared(found, perUnit === 'money' ? state.vocabulary.perUnit : 1);
    if (amount) {
      state.take(/%\s?/y);
      return condition({ field, ...amount });
    }
    state.at = start;
  }
  return null;
};

/** A sum by itself is the value of deals. */
export const bareAmount: Rule = (state) => {
  if (!state.has('amountMinor') || state.kind !== 'deal') return null;
  const start = state.at;
  const found = state.take(BARE);
  if (!found || !(found.op ?? found.more) || found.op === 'of') {
    state.at = start;
    return null;
  }
  const amount = compared(found, state.vocabulary.perUnit);
  if (!amount) state.at = start;
  return amount && condition({ field: 'amountMinor', ...amount });
};

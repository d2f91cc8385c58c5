import type { Filter } from '../types';
import { NUMBER, readNumber } from './tokens';
import { condition, words, type Rule } from './state';

const MADE = words(
  '(?:(?:that |who |which )?(?:were |was |are |have been |came in |i )?(?:newly )?(?:added|created|captured|entered|new|came in|arrived|imported|made)(?: by me)?)',
);
const AGE = words(`(?<sign>older|newer|younger) than (?<number>${NUMBER}) (?<unit>day|week|month|year)s?`);
/** Added this week; older than 30 days. */
export const made: Rule = (state) => {
  const field = state.has('createdAt') ? 'createdAt' : 'openedAt';
  const age = state.has(field) ? state.take(AGE) : null;
  if (age) {
    const value = { away: -Math.round(readNumber(age.number ?? 'a')), unit: (age.unit ?? 'day') as 'day' };
    return condition({ field, op: age.sign === 'older' ? 'before' : 'after', value });
  }
  const found = state.has(field) ? state.take(MADE) : null;
  const when = found && state.when('past');
  return when && condition({ field, op: when.op, value: when.value });
};

/** "New people this week": the word before the noun, the time behind it. */
const NEW = words(
  '(?:new|added|created)(?= (?:people|persons?|contacts|companies|firms|accounts|leads|deals|opportunities|tasks|prospects|customers|partners|cases|ones) )',
);
export const newOnes: Rule = (state) => {
  const field = state.has('createdAt') ? 'createdAt' : 'openedAt';
  const start = state.at;
  if (!state.has(field) || !state.take(NEW)) return null;
  const noun = state.at;
  state.take(words('\\S+'));
  const from = state.at;
  const when = state.when('past');
  if (!when) {
    state.at = start;
    return null;
  }
  state.readBefore = { from, to: state.at };
  state.at = noun;
  return condition({ field, op: when.op, value: when.value });
};

const BIRTHDAY = words(
  '(?:(?:with|have|having|has|whose) )?(?:a |their |the )?(?:next |upcoming )?(?:birthdays?|born)(?: (?:is|are|falls|coming up|ahead|comes up))?',
);
const KNOWN_BIRTHDAY = words('(?:with|have|having|has) (?:a )?(?:known )?birthday');
const NO_BIRTHDAY = words('(?:no|without(?: an?y?)?|missing(?: a)?) birthday');
export const birthday: Rule = (state) => {
  if (!state.has('birthday')) return null;
  if (state.take(NO_BIRTHDAY)) return condition({ field: 'birthday', op: 'empty' });
  const start = state.at;
  if (!state.take(BIRTHDAY)) return null;
  const when = state.when('future');
  if (when && (when.op === 'in' || when.op === 'between'))
    return condition({ field: 'birthday', op: when.op, value: when.value });
  state.at = start;
  if (when) return null;
  const known = state.take(KNOWN_BIRTHDAY);
  return known && condition({ field: 'birthday', op: 'filled' });
};

const CLOSING = words(
  '(?:(?:that |which )?(?:are |is )?(?:due to |expected to |should |will |to )?(?:close|closes|closing)(?: date)?(?: is)?|(?:with )?(?:an? )?(?:expected )?(?:close|closing) date(?: is)?|expected(?: to close)?(?: close)?)',
);
const LATE_CLOSE = words(
  '(?:(?:past|beyond|after) (?:their|its|the) (?:expected )?(?:close|closing)(?: date)?|(?:with )?(?:expected )?(?:close|closing) date (?:(?:has )?passed|(?:is )?in the past)|(?:that |which )?should have (?:been )?closed|overdue(?! next))',
);
const NO_CLOSE = words(
  '(?:no|without(?: an?y?)?|missing(?: an?)?|with no) (?:expected )?(?:close|closing)(?: date)?',
);
export const closing: Rule = (state) => {
  if (!state.has('expectedClose') || state.kind !== 'deal') return null;
  if (state.take(NO_CLOSE)) return condition({ field: 'expectedClose', op: 'empty' });
  if (state.take(LATE_CLOSE))
    return condition({
      all: [
        { field: 'expectedClose', op: 'before', value: { away: 0, unit: 'day' } },
        { field: 'status', op: 'is', value: ['open'] },
      ],
    });
  const start = state.at;
  const when = state.take(CLOSING) && state.when('future');
  if (when) return condition({ field: 'expectedClose', op: when.op, value: when.value });
  state.at = start;
  return null;
};

const NO_MOVE = words(
  "(?:no|without(?: an?y?| the)?|lacking(?: an?)?|missing(?: an?)?|(?:with|has|have|having|there is|there's) no) (?:next (?:moves?|steps?|actions?|tasks?)|follow-?ups?(?: planned)?|plan|open tasks?)|(?:with )?nothing (?:planned|scheduled|next)|next (?:move|step|action) (?:is )?(?:none|missing|empty)",
);
const MOVE = words(
  '(?:(?:with|has|have|having|whose) )?(?:an? |the |their )?(?:next (?:moves?|steps?|actions?)|follow-?ups?)(?: (?:is|are|planned|due|falls due))*',
);
const OVERDUE = words(
  '(?:(?:with|has|have|having) )?(?:an? )?(?:overdue(?: next (?:moves?|steps?|actions?|tasks?))?|late next (?:move|step))',
);
const NOW_OVERDUE = words('(?:(?:is|are) )?overdue');
const DUE = words('(?:(?:that |which )?(?:are |is |falls |fall )?due)');

const overdue = (field: string): Filter => ({ field, op: 'before', value: { away: 0, unit: 'day' } });
/** The next move: none, some, due when. A task is itself one. */
export const nextMove: Rule = (state) => {
  const isTask = state.kind === 'task';
  const field = isTask ? 'due' : 'nextMoveDue';
  if (!state.has(field)) return null;
  if (!isTask && state.take(NO_MOVE)) return condition({ field, op: 'empty' });
  if (state.take(OVERDUE))
    return condition(
      isTask ? { all: [overdue(field), { field: 'done', op: 'is', value: false }] } : overdue(field),
    );
  const start = state.at;
  if (state.take(DUE)) {
    const when = state.when('future');
    if (when) return condition({ field, op: when.op, value: when.value });
    state.at = start;
  }
  if (isTask || !state.take(MOVE)) return null;
  if (state.take(NOW_OVERDUE)) return condition(overdue(field));
  const when = state.when('future');
  return condition(when ? { field, op: when.op, value: when.value } : { field, op: 'filled' });
};

const STUCK = words(
  `(?:(?:that |which )?(?:are |is |have been |has been )?(?:stuck|idle|sitting|stalled|unchanged)|(?:that |which )?(?:haven't|hasn't|have not|has not|not) (?:been )?(?:moved|changed)(?: stages?)?|in (?:their|its|the|this|the same) stage)(?: in (?:their|its|the|this|the same) stage)? (?:(?:for|in) )?(?:the last )?(?<sign>over |more than |at least |longer than )?(?<number>${NUMBER}) (?<unit>day|week|month)s?(?: or more| or longer)?`,
);
const DAYS = { day: 1, week: 7, month: 30 };
export const stuck: Rule = (state) => {
  const found = state.has('daysInStage') ? state.take(STUCK) : null;
  if (!found) return null;
  const value = readNumber(found.number ?? 'a') * DAYS[(found.unit ?? 'day') as 'day'];
  return condition({
    field: 'daysInStage',
    op: /^(?:over|more|longer)/.test(found.sign ?? '') ? 'over' : 'atLeast',
    value,
  });
};

const OF = words('(?:of|from)(?= (?:this|last|today|yesterday|the))');
const FOR = words('(?:for|of|on|from)(?= )');
const isClosed = (said: Filter): boolean =>
  'field' in said &&
  said.field === 'status' &&
  Array.isArray(said.value) &&
  said.value.every((one) => one === 'won' || one === 'lost');
const CAME = new Set(['lead', 'deal', 'case', 'capture']);
/** "Leads from last week" came then; "tasks for today" are due then. */
export const bareTime: Rule = (state) => {
  const start = state.at;
  if (state.kind === 'task') {
    state.take(FOR);
    const when = state.when('future');
    if (when) return condition({ field: 'due', op: when.op, value: when.value });
  } else if (state.has('closedAt') && state.said.some(isClosed)) {
    const when = state.when('past');
    if (when) return condition({ field: 'closedAt', op: when.op, value: when.value });
  } else if (CAME.has(state.kind) && state.has('createdAt') && (state.take(OF) ?? state.isAfterSource)) {
    const when = state.when('past');
    if (when) return condition({ field: 'createdAt', op: when.op, value: when.value });
  }
  state.at = start;
  return null;
};

const PARKED = words('parked until');
const WON_DEALS = words('(?<status>won|lost|closed) (?:deals?|opportunit(?:y|ies))');
const CLOSED = words(
  '(?:(?:that |which )?(?:were |was )?closed|won|lost)(?= (?:in|on|since|this|last|before|after|today|yesterday|during|within|over|between))',
);
export const otherDates: Rule = (state) => {
  const start = state.at;
  if (state.has('parkedUntil') && state.take(PARKED)) {
    const when = state.when('future');
    if (when)
      return condition({ field: 'parkedUntil', op: when.op === 'in' ? 'in' : when.op, value: when.value });
  }
  state.at = start;
  const noun = state.has('closedAt') ? state.take(WON_DEALS) : null;
  const at = noun && state.when('past');
  if (noun && at) {
    const said: Filter = { field: 'closedAt', op: at.op, value: at.value };
    return condition(
      noun.status === 'closed'
        ? said
        : { all: [{ field: 'status', op: 'is', value: [noun.status ?? ''] }, said] },
    );
  }
  state.at = start;
  const closed = state.has('closedAt') ? state.take(CLOSED) : null;
  const when = closed && state.when('past');
  if (closed && when) {
    const said: Filter = { field: 'closedAt', op: when.op, value: when.value };
    const kind = /won|lost/.exec(closed.all ?? '')?.[0];
    return condition(kind ? { all: [said, { field: 'status', op: 'is', value: [kind] }] } : said);
  }
  state.at = start;
  return null;
};

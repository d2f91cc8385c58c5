import type { Option } from '../types';
import { anyOf, asTyped } from './tokens';
import { condition, words, type Rule, type State } from './state';

const WHOSE =
  '(?:(?:that |who |which )?(?:is |are )?(?:owned by|belonging to|belongs to|assigned to|looked after by|handled by|managed by|with owner)|owner(?: is|:)?|rep(?: is)?)';
const MINE = words(
  `(?:(?:${WHOSE} )(?:me|myself)|(?:(?:that|which|who) )?(?:i own|i look after|i handle|are mine|is mine)|mine|my(?! team)(?:self)?(?: own)?)`,
);
const ME = words('me|myself');
const MY_TEAM = words(
  `(?:(?:${WHOSE}|of|in|by|from) )?(?:my|our) team(?:'s)?(?: owns?)?|(?:that |who )?(?:we|my team) owns?`,
);
const NOBODY = words(
  "(?:without (?:an? |any )?(?:owner|rep)|(?:with |has |have )?no (?:owner|rep)|unowned|unassigned|nobody's|owned by (?:nobody|no one)|not (?:owned|assigned)(?! (?:by|to) (?!any))(?: (?:by|to) (?:anyone|anybody))?)",
);

/** Colleagues by their whole and their first names; a first name that two of them have is nobody's. */
function namesOf(users: readonly Option[]): Map<string, string> {
  const known = new Map<string, string | null>();
  for (const { value, label } of users) {
    const whole = asTyped(label);
    const [first = whole] = whole.split(' ');
    for (const name of new Set([whole, first]))
      known.set(name, known.has(name) && known.get(name) !== value ? null : value);
  }
  return new Map([...known].filter((pair): pair is [string, string] => pair[1] !== null));
}

function readName(state: State, before: string, after: string): string | null {
  const names = namesOf(state.vocabulary.users);
  const found = state.take(words(`${before}(?<name>${anyOf(names.keys())})${after}`));
  return found ? (names.get(found.name ?? '') ?? null) : null;
}

export const owner: Rule = (state) => {
  if (!state.has('owner')) return null;
  if (state.take(NOBODY)) return condition({ field: 'owner', op: 'empty' });
  if (state.take(MY_TEAM)) return condition({ field: 'owner', op: 'is', value: ['myTeam'] }, 'owner');
  if (state.take(MINE) ?? (state.goesOn === 'owner' ? state.take(ME) : null))
    return condition({ field: 'owner', op: 'is', value: ['me'] }, 'owner');
  const named = readName(state, `(?:${WHOSE} |of |for )?`, "(?:'s|'|(?<=s))?(?: own)?") ?? null;
  return named === null ? null : condition({ field: 'owner', op: 'is', value: [named] }, 'owner');
};

const TEAM = (names: string): RegExp =>
  words(`(?:(?:in|of|from|by) )?(?:the )?(?:team (?<a>${names})(?:'s)?|(?<b>${names})(?:'s)? team)`);
export const team: Rule = (state) => {
  const teams = state.vocabulary.values.team ?? [];
  if (!state.has('team') || !teams.length) return null;
  const values = new Map(teams.map(({ value, label }) => [asTyped(label), value]));
  const found = state.take(TEAM(anyOf(values.keys())));
  return (
    found &&
    condition({ field: 'team', op: 'is', value: [values.get(found.a ?? found.b ?? '') ?? ''] }, 'team')
  );
};

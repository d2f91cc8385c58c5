import { FIT_FIELDS, type FitField, type FitRule } from '@emporikon/core/qualifying/fit';
import { fold } from '@emporikon/core/people/text';
import { FARTHEST, type WinModel } from '@emporikon/core/qualifying/winChance';

/** SQL with its named values; values never stand in the text. */
export interface Compiled {
  sql: string;
  values: Record<string, unknown>;
}

const COLUMNS: Record<FitField, string> = {
  industry: 'f.industry',
  employees: 'f.employees',
  country: 'f.country',
  technologies: 'f.technologies',
  jobTitle: 'f.job_title',
  standing: 'f.standing',
  tags: 'f.tags',
  source: 'f.source',
  timeZone: 'f.time_zone',
  quantity: 'f.quantity',
  amount: 'f.amount',
};

function conditionOf(rule: FitRule, name: string): { sql: string; value: unknown } {
  const column = COLUMNS[rule.field];
  const { kind } = FIT_FIELDS[rule.field];
  if (kind === 'number') {
    const value = rule.condition === 'is known' ? null : Number(rule.value);
    const compare = { 'at least': '>=', 'at most': '<=' }[rule.condition as string] ?? '=';
    return {
      sql: `${column} IS NOT NULL${value === null ? '' : ` AND ${column} ${compare} :${name}::numeric`}`,
      value,
    };
  }
  const any = rule.value.split(',').map(fold).filter(Boolean);
  const words =
    kind === 'list' ? `ARRAY(SELECT folded(w) FROM unnest(${column}) w)` : `ARRAY[folded(${column})]`;
  const known = kind === 'list' ? `cardinality(${column}) > 0` : `coalesce(${column}, '') <> ''`;
  if (rule.condition === 'is known') return { sql: known, value: null };
  if (rule.condition === 'contains')
    return {
      sql: `${known} AND EXISTS (SELECT 1 FROM unnest(${words}) w, json_array_elements_text(:${name}::json) a WHERE position(' ' || a || ' ' IN ' ' || w || ' ') > 0)`,
      value: JSON.stringify(any),
    };
  const is = `${words} && ARRAY(SELECT json_array_elements_text(:${name}::json))`;
  return {
    sql: `${known} AND ${rule.condition === 'is not' ? `NOT (${is})` : is}`,
    value: JSON.stringify(any),
  };
}

/** The points of a rule sheet over a row `f` of facts, as `fitOf` of the core gives them. */
export function fitSql(rules: readonly FitRule[]): Compiled {
  const values: Record<string, unknown> = {};
  const parts = rules.map((rule, at) => {
    const name = `fit${at}`;
    const { sql, value } = conditionOf(rule, name);
    if (value !== null) values[name] = value;
    values[`points${at}`] = rule.points;
    return `CASE WHEN ${sql} THEN :points${at}::int ELSE 0 END`;
  });
  return { sql: parts.join(' + ') || '0', values };
}

const FEATURES: Record<string, string> = {
  fit: 'g.fit / 100.0',
  warmth: 'g.warmth / 100.0',
  completeness: 'g.completeness / 100.0',
  days: 'ln(1 + floor(greatest(0, g.days_open)))',
  answered: 'g.answered',
  // LEAST passes over what is not known, so that is told apart first.
  response:
    'CASE WHEN g.response_hours IS NULL AND g.days_open < 7 THEN NULL ELSE -ln(1 + least(coalesce(g.response_hours, 168), 168)) END',
  amount: 'CASE WHEN g.amount IS NULL THEN 0 ELSE 1 END',
};

/** The win chance over a row `g` of facts with its fit and warmth, as `winChance` of the core gives it. */
export function chanceSql(model: WinModel): Compiled {
  if (model.kind === 'base')
    return { sql: ':base::float8', values: { base: (model.won + 1) / (model.closed + 2) } };
  const values: Record<string, unknown> = { intercept: model.intercept };
  const terms = model.features.map((feature, at) => {
    const own = FEATURES[feature.key];
    if (!own) values[`word${at}`] = feature.key.slice(feature.key.indexOf(':') + 1);
    const value =
      own ??
      `CASE WHEN ${feature.key.startsWith('source:') ? 'g.source' : "''"} = :word${at} THEN 1 ELSE 0 END`;
    Object.assign(values, {
      [`w${at}`]: feature.weight,
      [`m${at}`]: feature.mean,
      [`s${at}`]: feature.spread,
    });
    return `:w${at}::float8 * greatest(-${FARTHEST}, least(${FARTHEST}, coalesce(((${value})::float8 - :m${at}::float8) / :s${at}::float8, 0)))`;
  });
  return { sql: `1 / (1 + exp(-(${[':intercept::float8', ...terms].join(' + ')})))`, values };
}

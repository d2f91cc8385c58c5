import { fold } from '../people/text';

/** What a fit rule can be about. */
export const FIT_FIELDS = {
  industry: { label: 'Industry', kind: 'text' },
  employees: { label: 'Employees', kind: 'number' },
  country: { label: 'Country', kind: 'text' },
  technologies: { label: 'Technology', kind: 'list' },
  jobTitle: { label: 'Job title', kind: 'text' },
  standing: { label: 'Standing', kind: 'text' },
  tags: { label: 'Tag', kind: 'list' },
  source: { label: 'Source of the lead', kind: 'text' },
  timeZone: { label: 'Time zone', kind: 'text' },
  quantity: { label: 'How many they want', kind: 'number' },
  amount: { label: 'What they can spend', kind: 'number' },
} as const satisfies Record<string, { label: string; kind: 'text' | 'number' | 'list' }>;
export type FitField = keyof typeof FIT_FIELDS;
export const FIT_CONDITIONS = ['is', 'is not', 'contains', 'at least', 'at most', 'is known'] as const;
export type FitCondition = (typeof FIT_CONDITIONS)[number];

export interface FitRule {
  id: string;
  field: FitField;
  condition: FitCondition;
  /** What it is held against; several parted by commas mean any of them. Empty for `is known`. */
  value: string;
  /** Whole points; negative ones count against. */
  points: number;
}

/** What is known of a lead; null for what is not. */
export type FitFacts = { [Field in FitField]: string | number | readonly string[] | null };

export interface FitPart {
  ruleId: string;
  /** The rule in words. */
  words: string;
  points: number;
  outcome: 'holds' | 'fails' | 'not known';
  /** What stands there. */
  found: string;
}
export interface Fit {
  points: number;
  /** 0 to 100, from the least to the most the sheet can give. */
  score: number;
  parts: FitPart[];
}

/** Which conditions make sense of a field. */
export function conditionsOf(field: FitField): readonly FitCondition[] {
  const { kind } = FIT_FIELDS[field];
  if (kind === 'number') return ['at least', 'at most', 'is', 'is known'];
  return kind === 'list' ? ['is', 'is not', 'is known'] : ['is', 'is not', 'contains', 'is known'];
}

const alternatives = (value: string): string[] => value.split(',').map(fold).filter(Boolean);

function holds(rule: FitRule, found: string | number | readonly string[]): boolean {
  if (rule.condition === 'is known') return true;
  if (typeof found === 'number') {
    const limit = Number(rule.value);
    if (rule.condition === 'at least') return found >= limit;
    return rule.condition === 'at most' ? found <= limit : found === limit;
  }
  const words = (Array.isArray(found) ? (found as readonly string[]) : [found as string]).map(fold);
  const any = alternatives(rule.value);
  if (rule.condition === 'contains')
    return words.some((word) => any.some((one) => ` ${word} `.includes(` ${one} `)));
  const is = words.some((word) => any.includes(word));
  return rule.condition === 'is not' ? !is : is;
}

/** A rule as a sentence. */
export const ruleInWords = (rule: Pick<FitRule, 'field' | 'condition' | 'value'>): string =>
  `${FIT_FIELDS[rule.field].label} ${rule.condition}${rule.condition === 'is known' ? '' : ` ${rule.value}`}`;

const isBlank = (found: FitFacts[FitField]): found is null =>
  found === null || found === '' || (Array.isArray(found) && found.length === 0);

/**
 * How well a lead is our kind, by the rule sheet. What is not known gives no points either way.
 * @returns points, their place between the least and the most the sheet can give, and what each rule did
 */
export function fitOf(rules: readonly FitRule[], facts: FitFacts): Fit {
  const parts = rules.map<FitPart>((rule) => {
    const found = facts[rule.field];
    const outcome = isBlank(found) ? 'not known' : holds(rule, found) ? 'holds' : 'fails';
    return {
      ruleId: rule.id,
      words: ruleInWords(rule),
      points: outcome === 'holds' ? rule.points : 0,
      outcome,
      found: isBlank(found) ? '' : Array.isArray(found) ? found.join(', ') : String(found),
    };
  });
  const points = parts.reduce((sum, part) => sum + part.points, 0);
  return { points, score: fitScore(points, rules), parts };
}

/** Where points stand between the least and the most the rules can give, 0 to 100. */
export function fitScore(points: number, rules: readonly Pick<FitRule, 'points'>[]): number {
  const least = rules.reduce((sum, rule) => sum + Math.min(0, rule.points), 0);
  const most = rules.reduce((sum, rule) => sum + Math.max(0, rule.points), 0);
  return most === least ? 0 : Math.round(((points - least) / (most - least)) * 100);
}

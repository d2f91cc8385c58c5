import { DateTime } from 'luxon';

/** How often we mean to be in touch with everybody of a standing or with a tag, in days. */
export interface RhythmRule {
  kind: 'standing' | 'tag';
  value: string;
  days: number;
}

interface Whose {
  /** Set on the person. */
  own: number | null;
  /** Set on their company. */
  company: number | null;
  tags: readonly string[];
  standing: string;
}

/** How often we mean to be in touch with somebody, and what says so; null where nothing does. */
export interface Rhythm {
  days: number;
  from: 'person' | 'company' | 'tag' | 'standing';
}

/** The nearest rule holds: the person's own, their company's, the shortest of their tags, that of their standing. */
export function rhythmOf(
  { own, company, tags, standing }: Whose,
  rules: readonly RhythmRule[],
): Rhythm | null {
  if (own) return { days: own, from: 'person' };
  if (company) return { days: company, from: 'company' };
  const tagged = rules.filter((rule) => rule.kind === 'tag' && tags.includes(rule.value));
  if (tagged.length) return { days: Math.min(...tagged.map(({ days }) => days)), from: 'tag' };
  const rule = rules.find((one) => one.kind === 'standing' && one.value === standing);
  return rule ? { days: rule.days, from: 'standing' } : null;
}

const USUAL = [7, 14, 21, 30, 60, 90, 180, 365];
const FEWEST_GAPS = 3;
const DAY_MS = 86_400_000;

export function median(values: readonly number[]): number | null {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  if (!sorted.length) return null;
  return sorted.length % 2
    ? (sorted[middle] ?? null)
    : ((sorted[middle - 1] ?? 0) + (sorted[middle] ?? 0)) / 2;
}

/**
 * The rhythm that the past shows: the usual one nearest to the median of the days between talks.
 * @param spoken when both sides had a word, ISO 8601, in any order
 * @returns days, or null where there were fewer than four days with a talk
 */
export function proposeRhythm(spoken: readonly string[]): number | null {
  const days = [...new Set(spoken.map((iso) => iso.slice(0, 10)))].sort();
  const gaps = days.slice(1).map((day, at) => (Date.parse(day) - Date.parse(days[at] ?? day)) / DAY_MS);
  const gap = gaps.length >= FEWEST_GAPS ? median(gaps) : null;
  if (gap === null) return null;
  return USUAL.reduce((best, usual) => (Math.abs(usual - gap) < Math.abs(best - gap) ? usual : best));
}

/** When somebody is going quiet: so many days after both sides had a word last, or after we knew them. */
export const quietFrom = (
  rhythm: Rhythm | null,
  spokenAt: string | null,
  knownSince: string,
): string | null =>
  rhythm
    ? (DateTime.fromISO(spokenAt ?? knownSince, { zone: 'utc' })
        .plus({ days: rhythm.days })
        .toISO() ?? null)
    : null;

interface Spoke {
  /** ISO 8601. */
  at: string;
  side: 'ours' | 'theirs' | 'within';
}

/**
 * How long somebody usually waits for our answer, in hours: the median of the times from their first unanswered word to our
 * next. Null where we never answered.
 * @param entries oldest first
 */
export function usualWait(entries: readonly Spoke[]): number | null {
  const waits: number[] = [];
  let asked: number | null = null;
  for (const { at, side } of entries) {
    if (side === 'theirs') asked ??= Date.parse(at);
    else if (side === 'ours' && asked !== null) {
      waits.push((Date.parse(at) - asked) / 3_600_000);
      asked = null;
    }
  }
  return median(waits);
}

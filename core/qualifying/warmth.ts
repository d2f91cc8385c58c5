/** What somebody did that tells of their interest, and how many points it is worth when it is fresh. By judgement. */
export const TOUCHES = {
  wrote: { label: 'wrote to us', points: 14 },
  replied: { label: 'replied', points: 18 },
  called: { label: 'talked with us', points: 16 },
  met: { label: 'came to a meeting', points: 30 },
  'filled in a form': { label: 'filled in a form', points: 20 },
  'asked for a quote': { label: 'asked for a quote', points: 32 },
  opened: { label: 'opened a mail', points: 3 },
  clicked: { label: 'followed a link', points: 8 },
  visited: { label: 'visited our site', points: 5 },
} as const;
export type TouchKind = keyof typeof TOUCHES;
export const TOUCH_KINDS = Object.keys(TOUCHES) as TouchKind[];

export interface Touch {
  kind: TouchKind;
  /** ISO 8601. */
  at: string;
  /** What it was, for people. */
  words: string;
}

export interface WarmthRules {
  /** After how many days a touch is worth half. */
  halfLifeDays: number;
  /** Points by kind where the house has its own. */
  points: Partial<Record<TouchKind, number>>;
}
export const USUAL_WARMTH: WarmthRules = { halfLifeDays: 14, points: {} };

export interface WarmthPart {
  kind: TouchKind;
  at: string;
  words: string;
  /** What it is worth now. */
  points: number;
}
export interface Warmth {
  /** 0 to 100. */
  score: number;
  points: number;
  parts: WarmthPart[];
  /** Whether it was lowered because our mail was not opened for 30 days. */
  cooled: boolean;
}

const DAY_MS = 86_400_000;
const UNOPENED_DAYS = 30;
const UNOPENED_KEEPS = 0.5;
/** How many points make a score of 63 of 100 (1 − 1/e). */
const SCALE = 40;

/** What is left of a value after some days: half of it for each half-life, 2^(−days / halfLife). */
export const decayed = (points: number, days: number, halfLifeDays: number): number =>
  points * 2 ** (-Math.max(0, days) / halfLifeDays);

/** Points as a score that grows ever more slowly, 0 to 100. */
export const warmthScore = (points: number): number => Math.round(100 * (1 - Math.exp(-points / SCALE)));

/**
 * How engaged somebody is now: what they did, each decayed by its age. Where we mailed them and they neither opened
 * anything nor did anything else for 30 days, it is halved (common practice: no opening for 30 days cools).
 * @param lastMailed when we last mailed them, ISO 8601; null when never
 * @param now ISO 8601
 */
export function warmthOf(
  touches: readonly Touch[],
  rules: WarmthRules,
  now: string,
  lastMailed: string | null,
): Warmth {
  const age = (at: string): number => (Date.parse(now) - Date.parse(at)) / DAY_MS;
  const parts = touches
    .filter((touch) => age(touch.at) >= 0)
    .map<WarmthPart>((touch) => ({
      ...touch,
      points: decayed(
        rules.points[touch.kind] ?? TOUCHES[touch.kind].points,
        age(touch.at),
        rules.halfLifeDays,
      ),
    }))
    .sort((a, b) => b.points - a.points);
  const youngest = Math.min(Infinity, ...parts.map((part) => age(part.at)));
  const cooled =
    lastMailed !== null && age(lastMailed) >= UNOPENED_DAYS && youngest >= UNOPENED_DAYS && parts.length > 0;
  const points = parts.reduce((sum, part) => sum + part.points, 0) * (cooled ? UNOPENED_KEEPS : 1);
  return { score: warmthScore(points), points, parts, cooled };
}

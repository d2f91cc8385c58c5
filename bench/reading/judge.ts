import { companyKey } from '@emporikon/core/people/companies';
import { fold } from '@emporikon/core/people/text';
import type { Claim, Intent } from '@emporikon/core/reading/types';
import type { Label, LabelledDocument } from './labelled';

/** One claim, right or wrong; or a label that nothing was claimed for, which has no confidence. */
export interface Judged {
  id: string;
  language: string;
  field: string;
  value: string;
  confidence: number | null;
  isRight: boolean;
}

interface Said {
  field: string;
  value: string;
  confidence: number;
  fits: (label: Label) => boolean;
}

const FACTS = new Set(['fullName', 'companyName', 'jobTitle', 'phone', 'email', 'address', 'url', 'profile']);

const bareUrl = (url: string): string =>
  url
    .toLowerCase()
    .replace(/^https?:\/\/(?:www\.)?|^www\./, '')
    .replace(/\/$/, '');

function ofClaim(claim: Claim): Said[] {
  if (!FACTS.has(claim.field)) return [];
  const { field, confidence } = claim;
  const value = claim.normalized ?? claim.value;
  const same = (label: Label): boolean => {
    if (field === 'phone') return claim.normalized === label.value;
    if (field === 'url' || field === 'profile') return bareUrl(claim.value) === bareUrl(label.value);
    if (field === 'companyName') return companyKey(claim.value) === companyKey(label.value);
    return fold(claim.value) === fold(label.value);
  };
  return [{ field, value, confidence, fits: (label) => label.field === field && same(label) }];
}

function ofIntent({ kind, value, confidence }: Intent): Said[] {
  const said = (text: string): Said[] => [
    { field: kind, value: text, confidence, fits: (label) => label.field === kind && label.value === text },
  ];
  switch (kind) {
    case 'date':
      return said(value.allDay ? value.at.slice(0, 10) : value.at.slice(0, 16));
    case 'money':
      return said(`${value.minor} ${value.currency}`);
    case 'quantity':
      return said(String(value.count));
    default:
      return [];
  }
}

/** What was claimed of a document beside its labels; each label is met once. */
export function tallyOf(
  { id, language, labels }: LabelledDocument,
  read: { claims: readonly Claim[]; intents: readonly Intent[] },
): Judged[] {
  const left = [...labels];
  const judged = [...read.claims.flatMap(ofClaim), ...read.intents.flatMap(ofIntent)].map(
    ({ field, value, confidence, fits }): Judged => {
      const at = left.findIndex(fits);
      if (at >= 0) left.splice(at, 1);
      return { id, language, field, value, confidence, isRight: at >= 0 };
    },
  );
  return [
    ...judged,
    ...left.map(({ field, value }) => ({ id, language, field, value, confidence: null, isRight: false })),
  ];
}

/** What is claimed with so much is right, but for three in two hundred. */
export const SURE = 0.9;

/** Prints precision, recall and F1 of some judged claims. */
export function report(name: string, judged: readonly Judged[]): void {
  const right = judged.filter((one) => one.isRight).length;
  const claimed = judged.filter((one) => one.confidence !== null).length;
  const expected = judged.filter((one) => one.isRight || one.confidence === null).length;
  const share = (of: number): string => (of ? (right / of).toFixed(3) : '  -  ');
  const sure = judged.filter((one) => (one.confidence ?? 0) >= SURE);
  const f1 = claimed + expected ? (2 * right) / (claimed + expected) : 1;
  console.log(
    `${name.padEnd(24)} F1 ${f1.toFixed(3)}  precision ${share(claimed)}  recall ${share(expected)}  (${expected} labelled)  given ${SURE} or more: ${sure.length}, wrong ${sure.filter((one) => !one.isRight).length}`,
  );
}

const BINS = 10;
/** Prints, by field, how many of the claims of each confidence are right. */
export function reliability(judged: readonly Judged[]): void {
  const steps = new Map<string, { right: number; all: number }>();
  for (const { field, confidence, isRight } of judged) {
    if (confidence === null) continue;
    const name = `${field} ${confidence.toFixed(2)}`;
    const step = steps.get(name) ?? { right: 0, all: 0 };
    steps.set(name, { right: step.right + Number(isRight), all: step.all + 1 });
  }
  for (const [name, { right, all }] of [...steps].sort())
    console.log(`  ${name.padEnd(20)} ${right} of ${all} right`);
}
/**
 * Expected calibration error over ten bins of equal width (Naeini, Cooper & Hauskrecht, AAAI 2015): how far the confidence of
 * claims is from the share of them that is right, weighed by how many there are.
 */
export function calibrationError(judged: readonly Judged[]): number {
  const claims = judged.flatMap((one) => (one.confidence === null ? [] : [{ ...one, sure: one.confidence }]));
  return Array.from({ length: BINS }, (_, bin) => {
    const within = claims.filter(({ sure }) => Math.min(BINS - 1, Math.floor(sure * BINS)) === bin);
    const right = within.filter((one) => one.isRight).length;
    return Math.abs(within.reduce((sum, one) => sum + one.sure, 0) - right) / Math.max(1, claims.length);
  }).reduce((sum, one) => sum + one, 0);
}

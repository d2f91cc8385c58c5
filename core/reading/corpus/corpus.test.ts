import { readEmail } from '../email/read';
import type { Claim } from '../types';
import { agrees, f1, loadCorpus, type Tally } from './corpus';

const corpus = loadCorpus();
const OURS = ['wharfside.example'];

interface Outcome {
  tallies: Map<string, Tally>;
  sure: number;
  sureWrong: string[];
  misses: string[];
}

async function measure(ours: string[]): Promise<Outcome> {
  const outcome: Outcome = { tallies: new Map(), sure: 0, sureWrong: [], misses: [] };
  const tally = (field: string): Tally => {
    const one = outcome.tallies.get(field) ?? { right: 0, claimed: 0, expected: 0 };
    outcome.tallies.set(field, one);
    return one;
  };
  for (const { id, expected, raw } of corpus) {
    const { claims } = await readEmail(raw, { ours, receivedAt: '2026-11-24T10:00:00Z' });
    const told = (claim: Claim): boolean => expected.some((label) => agrees(claim, label));
    for (const label of expected) {
      tally(label.field).expected++;
      if (!claims.some((claim) => agrees(claim, label)))
        outcome.misses.push(`${id}: missing ${label.field} ${label.value} ${label.type}`);
    }
    for (const claim of claims) {
      const one = tally(claim.field);
      one.claimed++;
      if (told(claim)) one.right++;
      else
        outcome.misses.push(
          `${id}: wrong ${claim.field} ${claim.normalized ?? claim.value} ${claim.type ?? ''} (${claim.confidence})`,
        );
      if (claim.confidence >= 0.9) {
        outcome.sure++;
        if (!told(claim)) outcome.sureWrong.push(`${id}: ${claim.field} ${claim.value}`);
      }
    }
  }
  return outcome;
}

const sum = (tallies: Iterable<Tally>): Tally =>
  [...tallies].reduce(
    (all, one) => ({
      right: all.right + one.right,
      claimed: all.claimed + one.claimed,
      expected: all.expected + one.expected,
    }),
    { right: 0, claimed: 0, expected: 0 },
  );

describe('the labelled messages', () => {
  let outcome: Outcome;
  beforeAll(async () => {
    outcome = await measure(OURS);
    if (process.env.SHOW_MISSES) process.stderr.write(`${outcome.misses.join('\n')}\n`);
    for (const [field, one] of outcome.tallies)
      process.stderr.write(`${field.padEnd(14)} F1 ${f1(one).toFixed(3)} of ${one.expected}\n`);
  });

  it('are at least sixty', () => {
    expect(corpus.length).toBeGreaterThanOrEqual(60);
  });

  it('are read with an F1 of at least 0.95 over all fields', () => {
    expect(f1(sum(outcome.tallies.values()))).toBeGreaterThanOrEqual(0.95);
  });

  it.each(['fullName', 'jobTitle', 'companyName', 'email', 'phone', 'url'])(
    'are read with an F1 of at least 0.90 on %s',
    (field) => {
      expect(f1(outcome.tallies.get(field) ?? { right: 0, claimed: 0, expected: 1 })).toBeGreaterThanOrEqual(
        0.9,
      );
    },
  );

  it('hold at most one wrong claim in a hundred among those given 0.9 or more', () => {
    expect(outcome.sure).toBeGreaterThan(100);
    expect(outcome.sureWrong.length / outcome.sure).toBeLessThanOrEqual(0.01);
  });

  it('are read nearly as well when nobody says which addresses are ours', async () => {
    expect(f1(sum((await measure([])).tallies.values()))).toBeGreaterThanOrEqual(0.95);
  });
});

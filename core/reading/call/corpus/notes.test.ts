import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { agrees, f1, type Tally } from '../../corpus/corpus';
import type { Intent } from '../../types';
import { readNote } from '../read';

const AT = '2026-11-24T10:00:00+00:00';

interface LabelledNote {
  id: string;
  claims: { field: string; value: string; type: string }[];
  intents: { kind: string; value: string }[];
  text: string;
}

/** The labelled notes: `@ field value` and `! intent value` lines, then the note as a rep would type it. */
const notes: LabelledNote[] = readFileSync(join(__dirname, 'notes.txt'), 'utf8')
  .split(/^### /m)
  .slice(1)
  .map((section) => {
    const [id = '', ...lines] = section.split('\n');
    return {
      id,
      claims: lines.flatMap((line) => {
        const [, field = '', value = ''] = /^@ (\S+) (.+)$/.exec(line) ?? [];
        const phone = /^(\+\d+) (\w+)$/.exec(value);
        return field ? [{ field, value: phone?.[1] ?? value, type: phone?.[2] ?? '' }] : [];
      }),
      intents: lines.flatMap((line) => {
        const [, kind = '', value = ''] = /^! (\S+)(?: (.+))?$/.exec(line) ?? [];
        return kind ? [{ kind, value: value ?? '' }] : [];
      }),
      text: lines
        .filter((line) => !/^[@!] /.test(line))
        .join('\n')
        .trim(),
    };
  });

const shown = (intent: Intent): string => {
  switch (intent.kind) {
    case 'date':
      return intent.value.allDay ? intent.value.at.slice(0, 10) : intent.value.at.slice(0, 16);
    case 'money':
      return `${intent.value.minor} ${intent.value.currency}`;
    case 'quantity':
      return String(intent.value.count);
    default:
      return '';
  }
};

describe('the labelled call notes', () => {
  const claims: Tally = { right: 0, claimed: 0, expected: 0 };
  const intents = new Map<string, Tally>();
  const misses: string[] = [];
  for (const note of notes) {
    const read = readNote(note.text, { at: AT, zone: 'Europe/London', country: 'GB' });
    claims.expected += note.claims.length;
    claims.claimed += read.claims.length;
    for (const label of note.claims) {
      if (read.claims.some((claim) => agrees(claim, label))) claims.right++;
      else misses.push(`${note.id}: missing ${label.field} ${label.value}`);
    }
    for (const claim of read.claims)
      if (!note.claims.some((label) => agrees(claim, label)))
        misses.push(`${note.id}: wrong ${claim.field} ${claim.normalized ?? claim.value}`);
    const left = [...note.intents];
    for (const intent of read.intents) {
      const tally = intents.get(intent.kind) ?? { right: 0, claimed: 0, expected: 0 };
      intents.set(intent.kind, tally);
      tally.claimed++;
      const at = left.findIndex((one) => one.kind === intent.kind && one.value === shown(intent));
      if (at < 0) misses.push(`${note.id}: wrong ${intent.kind} ${shown(intent)} “${intent.text}”`);
      else {
        tally.right++;
        left.splice(at, 1);
      }
    }
    for (const one of left) misses.push(`${note.id}: missing ${one.kind} ${one.value}`);
    for (const { kind } of note.intents) {
      const tally = intents.get(kind) ?? { right: 0, claimed: 0, expected: 0 };
      intents.set(kind, tally);
      tally.expected++;
    }
  }
  if (process.env.SHOW_MISSES) process.stderr.write(`${misses.join('\n')}\n`);

  it('are thirty', () => expect(notes).toHaveLength(30));
  it('give their facts with an F1 of at least 0.93', () => expect(f1(claims)).toBeGreaterThanOrEqual(0.93));
  it('give their intents with an F1 of at least 0.93', () => {
    const all = [...intents.values()].reduce(
      (sum, one) => ({
        right: sum.right + one.right,
        claimed: sum.claimed + one.claimed,
        expected: sum.expected + one.expected,
      }),
      { right: 0, claimed: 0, expected: 0 },
    );
    expect(f1(all)).toBeGreaterThanOrEqual(0.93);
  });
  it('say where each claim and intent stands', () => {
    for (const note of notes) {
      const read = readNote(note.text, { at: AT, country: 'GB' });
      for (const { span, value } of read.claims)
        if (span)
          expect(note.text.slice(span.start, span.end).length).toBeGreaterThanOrEqual(
            Math.min(2, value.length),
          );
      for (const { span, text } of read.intents)
        expect(note.text.slice(span.start, span.end)).toContain(text.slice(0, 8));
    }
  });
});

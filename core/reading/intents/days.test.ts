import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readNote } from '../call/read';

const lines = readFileSync(join(__dirname, 'days.txt'), 'utf8')
  .split('\n')
  .filter((line) => line && !line.startsWith('#'))
  .map((line) => line.split('|') as [string, string, string]);

function daysIn(country: string, text: string): string {
  const { intents } = readNote(text, { at: '2026-11-24T10:00:00+00:00', zone: 'UTC', country });
  const days = intents.flatMap((intent) =>
    intent.kind === 'date' ? [intent.value.at.slice(0, intent.value.allDay ? 10 : 16)] : [],
  );
  return days.join(' ') || '-';
}

it('has enough of them to say something', () => expect(lines.length).toBeGreaterThanOrEqual(150));
it.each(lines)('%s: %s is %s', (country, text, expected) => expect(daysIn(country, text)).toBe(expected));

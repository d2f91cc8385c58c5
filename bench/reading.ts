import { readNote } from '@emporikon/core/reading/call/read';
import { performance } from 'node:perf_hooks';
import { calibrationError, reliability, report, tallyOf, type Judged } from './reading/judge';
import { loadNotes, PARTS, type Part } from './reading/labelled';

const AT = '2026-11-24T10:00:00+00:00';
/** What is claimed with so much is right, but for three in two hundred. */
const SURE = 0.9;

/** Reads one part of the labelled notes and says how much of it was read right: in all, by field and by language. */
function main(): void {
  const part = (process.argv[2] ?? 'test') as Part;
  if (!PARTS.includes(part)) throw new Error(`There is no part “${part}”; there are ${PARTS.join(', ')}.`);
  const notes = loadNotes(part);
  const judged: Judged[] = [];
  const times: number[] = [];
  for (const note of notes) {
    const options = { at: AT, zone: 'Europe/London', country: note.country };
    readNote(note.text, options);
    for (let length = 1; length <= note.text.length; length += 3) {
      const began = performance.now();
      readNote(note.text.slice(0, length), options);
      times.push(performance.now() - began);
    }
    judged.push(...tallyOf(note, readNote(note.text, options)));
  }
  console.log(`${notes.length} call notes (${part})`);
  report('all', judged);
  for (const key of ['field', 'language'] as const)
    for (const name of [...new Set(judged.map((one) => one[key]))].sort())
      report(
        `${key} ${name}`,
        judged.filter((one) => one[key] === name),
      );
  const sure = judged.filter((one) => (one.confidence ?? 0) >= SURE);
  const wrong = sure.filter((one) => !one.isRight).length;
  console.log(
    `given ${SURE} or more: ${sure.length}, of which wrong ${((100 * wrong) / Math.max(1, sure.length)).toFixed(1)} %`,
  );
  console.log(`expected calibration error ${calibrationError(judged).toFixed(3)}`);
  times.sort((a, b) => a - b);
  console.log(`a keystroke: 99 in 100 within ${(times[Math.floor(times.length * 0.99)] ?? 0).toFixed(1)} ms`);
  if (part === 'test') return;
  reliability(judged);
  for (const { id, field, isRight, value, confidence } of judged)
    if (!isRight) console.log(`  ${id}: ${confidence === null ? 'missing' : 'wrong'} ${field} ${value}`);
}

main();

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readEntry } from './entryReading';
import { joinTurns, readTurn, type Turn, type TurnEntry, type TurnOutcome } from './turn';

const SIDES = { T: 'theirs', O: 'ours', W: 'within' } as const;
const HEADERS: Record<string, Record<string, string>> = {
  auto: { 'Auto-Submitted': 'auto-replied' },
  news: { 'List-Unsubscribe': '<https://news.example/leave>' },
  notice: { From: 'Parcels <no-reply@parcels.example>' },
};

/** Exchanges as they stand in exchanges.txt: a heading with whose turn it is, then a line an entry, `~` for a new line. */
function parse(block: string, at: number): { turn: Turn; name: string; entries: TurnEntry[] } {
  const [heading = '', ...lines] = block.split('\n');
  const [, turn = '', name = ''] = /^# (\w+): (.*)$/.exec(heading) ?? [];
  const entries = lines.map((line, n): TurnEntry => {
    const [, side = '', kind = '', headers = '', outcome = '', text = ''] =
      /^([TOW]) (\w+)(?: <(\w+)>)?(?: (spoke|no answer|voicemail|moved))?: ?(.*)$/.exec(line) ?? [];
    return {
      side: SIDES[side as keyof typeof SIDES],
      kind,
      at: new Date(Date.UTC(2026, 10, 2 + n, 9, at)).toISOString(),
      text: text.replace(/~/g, '\n'),
      ...(outcome ? { outcome: outcome as TurnOutcome } : {}),
      ...(headers ? { headers: HEADERS[headers] ?? {} } : {}),
    };
  });
  return { turn: turn as Turn, name, entries };
}
const EXCHANGES = readFileSync(join(__dirname, 'exchanges.txt'), 'utf8').trim().split(/\n\n+/).map(parse);

it.each(EXCHANGES)('$turn: $name', ({ turn, entries }) => {
  expect(readTurn(entries).turn).toBe(turn);
});

const entry = (side: TurnEntry['side'], text: string, over: Partial<TurnEntry> = {}): TurnEntry => ({
  side,
  kind: 'mail',
  at: '2026-11-02T09:00:00Z',
  text,
  ...over,
});

it('says since when and why, and where both owe, it is ours', () => {
  const entries = [
    entry('theirs', 'Could you hold two bikes for us? I will send the drawings tomorrow.', {
      at: '2026-11-03T09:00:00+02:00',
    }),
  ];
  expect(readTurn(entries)).toEqual({
    turn: 'ours',
    since: '2026-11-03T09:00:00+02:00',
    because: 'they asked: Could you hold two bikes for us?',
  });
});

it('takes entries in the order of their times, whatever their zones and their order in the file', () => {
  const asked = entry('theirs', 'What does it cost?', { at: '2026-11-02T23:30:00-05:00' });
  const answered = entry('ours', 'It is €1,950 without tax.', { at: '2026-11-03T05:00:00+00:00' });
  expect(readTurn([answered, asked]).turn).toBe('nobody');
});

it('a robot is known by its headers, its address or its subject; a person who answers a robot is none', () => {
  const asked = entry('ours', 'Does Tuesday suit you?');
  const later = { at: '2026-11-03T09:00:00Z' };
  const says = (text: string, over: Partial<TurnEntry>): string =>
    readTurn([asked, entry('theirs', text, { ...later, ...over })]).turn;
  expect(says('I am away. Please write to Tom?', { headers: { 'X-Autoreply': 'yes' } })).toBe('theirs');
  expect(says('Could not be delivered?', { from: 'MAILER-DAEMON@mx.example' })).toBe('theirs');
  expect(says('I am away until Monday.', { subject: 'Abwesenheitsnotiz: Termin' })).toBe('theirs');
  expect(says('Wednesday is better?', { subject: 'Re: Automatic lights' })).toBe('ours');
});

it('reads many long letters, and hostile ones, to their end', () => {
  const letter = `${'Thank you for the drawings, which we have looked at with the workshop. '.repeat(40)}When can you start?`;
  const many = Array.from({ length: 300 }, (_, at) =>
    entry(at % 2 ? 'ours' : 'theirs', letter, { at: new Date(Date.UTC(2026, 0, 1, at)).toISOString() }),
  );
  expect(readTurn(many).turn).toBe('theirs');
  const turnAfter = (hostile: string): string => readTurn([entry('theirs', hostile)]).turn;
  expect(
    ['will '.repeat(50_000), '?'.repeat(200_000), 'a '.repeat(100_000), '> '.repeat(80_000)].map(turnAfter),
  ).toEqual(['theirs', 'ours', 'ours', 'ours']);
});

it('says the same of an entry whether it is read now or was read before', () => {
  for (const { entries } of EXCHANGES) {
    const read = entries.map((one) => ({
      ...one,
      text: '',
      reading: JSON.parse(JSON.stringify(readEntry(one))) as TurnEntry['reading'],
    }));
    // A task that was done, and a voicemail, are told by their words and outcome alone.
    const kept = read.map((one, at) =>
      one.kind === 'task' ? { ...one, text: entries[at]?.text ?? '' } : one,
    );
    expect(readTurn(kept)).toEqual(readTurn(entries));
  }
});

it('a person who says that nothing is left to answer is believed, until more is said', () => {
  const asked = entry('theirs', 'What does it cost?');
  const marked = {
    at: '2026-11-02T10:00:00Z',
    side: 'within',
    kind: 'change',
    settledBy: 'Mara Quill',
  } as const;
  expect(readTurn([asked, marked])).toEqual({
    turn: 'nobody',
    since: marked.at,
    because: 'Mara Quill marked it as answered',
  });
  expect(readTurn([asked, marked, entry('theirs', 'And in red?', { at: '2026-11-02T11:00:00Z' })]).turn).toBe(
    'ours',
  );
});

it('with several it is ours as soon as one waits for us, and since that one waits', () => {
  const of = (turn: Turn, day: number) => ({
    turn,
    since: `2026-11-0${day}T09:00:00Z`,
    because: `${turn} ${day}`,
  });
  expect(joinTurns([of('nobody', 9), of('ours', 4), of('theirs', 8), of('ours', 2)]).because).toBe('ours 2');
  expect(joinTurns([of('nobody', 9), of('theirs', 3), of('theirs', 8)]).because).toBe('theirs 8');
  expect(joinTurns([of('nobody', 1), of('nobody', 9)]).because).toBe('nobody 9');
  expect(joinTurns([])).toEqual({ turn: 'nobody', since: null, because: 'nothing said yet' });
});

it('names what was asked in so many words before what a note leaves open', () => {
  const noted = entry('ours', 'Called her, wants to start in March', { kind: 'call' });
  const wrote = entry('theirs', 'Could you send the quote?', { at: '2026-11-05T09:00:00Z' });
  expect(readTurn([noted]).because).toBe('open after the call: Called her, wants to start in March');
  expect(readTurn([noted, wrote]).because).toBe('they asked: Could you send the quote?');
});

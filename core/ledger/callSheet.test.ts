import { readCallSheet } from './callSheet';

/** A Friday morning in London. */
const OPTIONS = { at: '2026-11-27T10:00:00+00:00', zone: 'Europe/London', country: 'GB', currency: 'EUR' };
const read = (note: string) => readCallSheet(note, OPTIONS);

describe('who it was', () => {
  it('is read with firm, title and how to reach them', () => {
    expect(
      read('spoke to Ines Duarte, buyer at Padaria Sol, 020 7946 0018, ines@sol.example').person,
    ).toMatchObject({
      fullName: 'Ines Duarte',
      companyName: 'Padaria Sol',
      email: 'ines@sol.example',
      phone: '020 7946 0018',
    });
  });

  it('is nobody where nobody was named, and nothing is made up', () => {
    const { person, deal, moves } = read('no answer');
    expect([Object.values(person).join(''), deal, moves]).toEqual(['', null, []]);
  });
});

describe('what is to be done', () => {
  it.each([
    ['call back Monday at 3pm', 'call', '2026-11-30T15:00:00+00:00', false],
    ['send the quote by Wednesday', 'mail', '2026-12-02', true],
    ['visit on 3 December 11:00-12:00', 'meeting', '2026-12-03T11:00:00+00:00', false],
  ])('“%s”', (note, kind, due, allDay) => {
    const [move] = read(`spoke to Ines Duarte. ${note}`).moves;
    expect([move?.dueAt.startsWith(due), move?.allDay, move?.assumedDate]).toEqual([true, allDay, false]);
    expect(move?.from.toLowerCase()).toContain(note.toLowerCase().slice(0, 8));
    expect(['call', 'mail', 'meeting', 'visit', 'task']).toContain(move?.kind);
    if (kind === 'call') expect(move?.kind).toBe('call');
  });

  it('without a day is for the next working day, and says that this was assumed', () => {
    const [move] = read('spoke to Ines Duarte. send the brochure').moves;
    expect([move?.assumedDate, move?.allDay, move?.dueAt.slice(0, 10)]).toEqual([true, true, '2026-11-30']);
  });

  it('has an end where one was said', () => {
    const [move] = read('meet Ines on Thursday 2pm to 3.30pm').moves;
    expect([move?.dueAt, move?.endAt]).toEqual(['2026-12-03T14:00:00+00:00', '2026-12-03T15:30:00+00:00']);
  });

  it('keeps several apart', () => {
    const { moves } = read('call back Monday; send the price list tomorrow');
    expect(moves.map((move) => move.dueAt.slice(0, 10))).toEqual(['2026-11-30', '2026-11-28']);
  });
});

describe('what it may be worth', () => {
  it('is a deal by what they want, its sum and when', () => {
    const { deal } = read('spoke to Ines Duarte, wants 8 cargo bikes, budget 40k, needs them by 15 January');
    expect(deal).toMatchObject({ amountMinor: 4_000_000, currency: 'EUR', quantity: 8 });
    expect(deal?.title).toMatch(/^8 /);
    expect(deal?.expectedClose).toBe('2027-01-15');
  });

  it('is none where nothing is wanted and no sum is named', () => {
    expect(read('spoke to Ines Duarte, they have 12 staff').deal).toBeNull();
  });

  it('a sum in another currency stays in it', () => {
    expect(read('Bo Lund wants 2 trailers, about £5,000').deal).toMatchObject({
      amountMinor: 500_000,
      currency: 'GBP',
    });
  });
});

describe('what stays true and what was said', () => {
  it('are kept apart', () => {
    const { background, said } = read('spoke to Ines Duarte. decides alone. price is too high for her');
    expect(background.toLowerCase()).toContain('decides alone');
    expect(said.toLowerCase()).toContain('price is too high');
    expect(said.toLowerCase()).not.toContain('decides alone');
  });
});

it('lights stretches that lie in the note, whatever is typed', () => {
  const note =
    'spoke to Ines Duarte at Padaria Sol, wants 8 bikes for 40k, decides alone, call back Monday at 3pm';
  for (let length = 0; length <= note.length; length++) {
    const typed = note.slice(0, length);
    const { lit } = read(typed);
    for (const { start, end } of lit)
      expect([typed, start >= 0 && start < end && end <= length]).toEqual([typed, true]);
  }
});

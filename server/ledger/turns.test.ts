import { useHouse } from '../testing/harness';
import { fillTurnsJob } from './fillTurns';
import { saying } from '../testing/saying';

const { house, ines, pell } = useHouse();
const { person, company, enter, ledger } = saying(pell);
const mailed = (side: 'ours' | 'theirs', headline: string, at: string, personId: string) =>
  enter(pell, { kind: 'mail', side, headline, at }, { personId });

describe('whose turn it is', () => {
  it('is read from the words, the same on person, company, lead and deal', async () => {
    const firm = await company('Quay Florists');
    const id = await person('Lea Brink', firm);
    const lead = (await pell.call('POST /api/leads', { body: { title: 'Two bikes', personId: id } })).body
      .lead;
    const dealId = (await pell.call('POST /api/deals', { body: { title: 'Two bikes', personId: id } })).body
      .deal.id;
    const all: Record<string, string>[] = [
      { personId: id },
      { companyId: firm },
      { leadId: lead.id },
      { dealId },
    ];
    const turns = async () => Promise.all(all.map(async (about) => (await ledger(about)).turn.turn));
    await mailed('theirs', 'Could you send the payload sheet?', '2026-11-02T09:00:00Z', id);
    expect(await turns()).toEqual(['ours', 'ours', 'ours', 'ours']);
    await enter(
      pell,
      {
        kind: 'call',
        side: 'ours',
        headline: 'Left a voicemail',
        outcome: 'voicemail',
        at: '2026-11-02T10:00:00Z',
      },
      { personId: id },
    );
    expect(await turns()).toEqual(['ours', 'ours', 'ours', 'ours']);
    await mailed(
      'ours',
      'Here is the payload sheet. When do you want to ride it?',
      '2026-11-03T09:00:00Z',
      id,
    );
    expect(await turns()).toEqual(['theirs', 'theirs', 'theirs', 'theirs']);
    await mailed('theirs', 'Thursday at ten suits us.', '2026-11-04T09:00:00Z', id);
    expect(new Set(await turns())).toEqual(new Set(['nobody']));
  });

  it('is ours at a company as long as one of its people waits, however much is said with the others', async () => {
    const firm = await company('Harbour Caterers');
    const [waits, talks] = [await person('Wim Waits', firm), await person('Tess Talks', firm)];
    await mailed('theirs', 'What does the trailer cost?', '2026-11-01T09:00:00Z', waits);
    for (let day = 2; day < 12; day++)
      await enter(
        pell,
        {
          kind: 'call',
          side: 'ours',
          headline: 'Talked it through',
          at: `2026-11-${String(day).padStart(2, '0')}T09:00:00Z`,
        },
        { personId: talks },
      );
    expect((await ledger({ personId: talks })).turn.turn).toBe('nobody');
    expect((await ledger({ companyId: firm })).turn).toMatchObject({
      turn: 'ours',
      because: 'they asked: What does the trailer cost?',
    });
  });

  it('is settled by hand, in the ledger, and taken back', async () => {
    const firm = await company('Mill Couriers');
    const id = await person('Otto Reed', firm);
    await mailed('theirs', 'Any news?', '2026-11-02T09:00:00Z', id);
    const { body } = await pell.call('POST /api/ledger/answered', { body: { companyId: firm } });
    expect((await ledger({ personId: id })).turn).toMatchObject({
      turn: 'nobody',
      because: 'Pell Garrick marked it as answered',
    });
    expect((await ledger({ companyId: firm })).turn.turn).toBe('nobody');
    const again = await pell.call('POST /api/ledger/answered', { body: { personId: id } });
    expect(again.status).toBe(409);
    await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
    expect((await ledger({ personId: id })).turn.turn).toBe('ours');
  });

  it('a task that is done answers, and a note does not', async () => {
    const id = await person('Nora Vance');
    await mailed('theirs', 'Could you send the quote?', '2026-11-02T09:00:00Z', id);
    await enter(pell, { headline: 'Quote sent? Ask Ines' }, { personId: id });
    expect((await ledger({ personId: id })).turn.turn).toBe('ours');
    const task = await pell.call('POST /api/tasks', {
      body: { title: 'Send the quote', kind: 'mail', dueAt: '2026-11-25T09:00:00Z', personId: id },
    });
    await pell.call('PATCH /api/tasks/:id', { params: { id: task.body.task.id }, body: { done: true } });
    expect((await ledger({ personId: id })).turn.turn).toBe('nobody');
  });

  it('is kept at night for whoever it is not kept of, and is the same before and after', async () => {
    const firm = await company('Before Bakery');
    const ids = [];
    for (let at = 0; at < 3; at++) ids.push(await person(`Before Number${at}`, firm));
    for (const [at, id] of ids.entries())
      await mailed('theirs', 'What does the trailer cost?', `2026-10-0${at + 1}T09:00:00Z`, id);
    const before = (await ledger({ companyId: firm })).turn;
    await house.sequelize.query('DELETE FROM turns');
    await house.sequelize.query('UPDATE ledger_entries SET reading = NULL');
    expect((await ledger({ companyId: firm })).turn).toEqual(before);
    await fillTurnsJob.handle(house.tools, {});
    const [kept] = await house.sequelize.query('SELECT turn FROM turns WHERE person_id IN (:ids)', {
      replacements: { ids },
    });
    expect(kept).toEqual([{ turn: 'ours' }, { turn: 'ours' }, { turn: 'ours' }]);
    expect((await ledger({ companyId: firm })).turn).toEqual(before);
  });

  it('stands in the list of people, with when they were spoken with and touched last', async () => {
    const id = await person('Listed Lindqvist');
    const row = async (by = pell) =>
      (await by.call('GET /api/people', { query: { q: 'listed lindqvist' } })).body.items[0];
    expect(await row()).toMatchObject({
      ...{ turn: { turn: 'nobody' }, spokenAt: null, touchedAt: null },
      ...{ daysQuiet: null, nextMove: null },
    });
    await mailed('theirs', 'What does the trailer cost?', '2026-10-01T09:00:00Z', id);
    await mailed('ours', 'It costs €1,190.', '2026-10-02T09:00:00Z', id);
    const missed = {
      kind: 'call',
      side: 'ours',
      headline: 'Rang',
      outcome: 'no answer',
      at: '2026-10-05T09:00:00Z',
    };
    await enter(pell, missed, { personId: id });
    await enter(pell, { headline: 'A note for ourselves' }, { personId: id });
    const listed = {
      turn: { turn: 'nobody' },
      spokenAt: '2026-10-01T09:00:00.000Z',
      touchedAt: '2026-10-05T09:00:00.000Z',
    };
    expect(await row()).toMatchObject(listed);
    const days = (house.tools.now().getTime() - Date.parse('2026-10-01T09:00:00Z')) / 86_400_000;
    expect((await row())?.daysQuiet).toBe(Math.floor(days));
    // A meeting that they come to is what comes next with them, as on their page.
    const later = { title: 'Ring', personId: id, dueAt: '2026-12-20T00:00:00Z' };
    await pell.call('POST /api/tasks', { body: later });
    const meeting = { title: 'Trial ride', kind: 'meeting', dueAt: '2026-12-10T10:00:00Z', allDay: false };
    await pell.call('POST /api/tasks', { body: { ...meeting, people: [{ personId: id }] } });
    expect((await row())?.nextMove).toMatchObject({ title: 'Trial ride' });
    const dossier = await pell.call('GET /api/people/:id', { params: { id } });
    expect(dossier.body.nextMove).toMatchObject({ title: 'Trial ride' });
    // What only some may see is read for whoever asks, and is the same to them.
    const hidden = (await mailed('theirs', 'In confidence: may we return it?', '2026-10-07T09:00:00Z', id))
      .body.id;
    await pell.call('PUT /api/visibility/:kind/:id', {
      params: { kind: 'ledger', id: hidden },
      body: { visibility: 'owner' },
    });
    expect(await row()).toMatchObject({ turn: { turn: 'ours' }, spokenAt: '2026-10-07T09:00:00.000Z' });
    expect(await row(ines)).toMatchObject(listed);
    expect(JSON.stringify(await row(ines))).not.toContain('confidence');
  });
});

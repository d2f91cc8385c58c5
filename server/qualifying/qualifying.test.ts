import {
  FIT_CONDITIONS,
  FIT_FIELDS,
  fitOf,
  type FitField,
  type FitRule,
} from '@emporikon/core/qualifying/fit';
import { winChance } from '@emporikon/core/qualifying/winChance';
import fc from 'fast-check';
import { QueryTypes } from 'sequelize';
import { runInTransaction } from '../commands/context';
import { Lead } from '../db/models/deals';
import { WinModelRow } from '../db/models/qualifying';
import { mail, useHouse } from '../testing/harness';
import { fitFactsOf, judgeLead, loadMeasure, scoringSql, winFactsOf, type FactRow } from './score';
import { bringBack } from './jobs';
import { trainWinChance } from './train';

const { house, pell, mara } = useHouse();

let serial = 0;
const letters = (at: number): string =>
  String(at).replace(/\d/g, (digit) => 'abcdefghij'.charAt(Number(digit)));
/** A lead with a firm of some kind, made by hand. */
async function newLead(firm: object = {}, jobTitle = 'Owner'): Promise<{ id: string; personId: string }> {
  const name = letters((serial += 1));
  const { company } = (await pell.call('POST /api/companies', { body: { name: `Firm ${name}` } })).body;
  await pell.call('PATCH /api/companies/:id', { params: { id: company.id }, body: { version: 1, ...firm } });
  const { person } = (
    await pell.call('POST /api/people', {
      body: { fullName: `Ada ${name}`, jobTitle, companyId: company.id },
    })
  ).body;
  const { lead } = (
    await pell.call('POST /api/leads', { body: { title: `Lead ${name}`, personId: person.id } })
  ).body;
  return { id: lead.id, personId: person.id };
}
const judged = async (id: string) =>
  (await pell.call('GET /api/leads/:id/judgement', { params: { id } })).body;
const sheet = async () => (await mara.call('GET /api/fit-rules')).body.items;
const setSheet = async (rules: object[], client = mara) =>
  client.call('PUT /api/fit-rules', {
    body: { rules, seen: (await sheet()).map(({ id, version }) => ({ id, version })) },
  });
const BAKERIES = { field: 'industry', condition: 'is', value: 'Bakeries', points: 30 };

describe('fit', () => {
  it('is explained point by point on the lead, and moves with a fact at once', async () => {
    expect(
      (await setSheet([BAKERIES, { field: 'employees', condition: 'at least', value: '5', points: 10 }]))
        .status,
    ).toBe(200);
    const { id } = await newLead({ industry: 'Bakeries' });
    const before = await judged(id);
    expect(before.fit.parts.map((part) => [part.words, part.outcome])).toEqual([
      ['Industry is Bakeries', 'holds'],
      ['Employees at least 5', 'not known'],
    ]);
    const lead = (await pell.call('GET /api/leads/:id', { params: { id } })).body;
    await pell.call('PATCH /api/companies/:id', {
      params: { id: lead.company?.id ?? '' },
      body: { version: 2, employees: 9 },
    });
    expect([before.fit.score, (await judged(id)).fit.score]).toEqual([75, 100]);
    await house.work();
    const listed = (await pell.call('GET /api/leads', { query: { sort: 'chance' } })).body.items;
    expect(listed.find((one) => one.id === id)?.scores?.fit).toBe(100);
  });
  it('previews how today’s leads would be ranked, and changes nothing by it', async () => {
    const [bakery, courier] = [
      await newLead({ industry: 'Bakeries' }),
      await newLead({ industry: 'Couriers' }),
    ];
    const before = await sheet();
    const { body } = await pell.call('POST /api/fit-rules/preview', {
      body: { rules: [{ field: 'industry', condition: 'is', value: 'couriers', points: 40 }] },
    });
    const of = (id: string) => body.items.find((item) => item.lead.id === id);
    expect(of(courier.id)).toMatchObject({ after: 100 });
    expect(of(courier.id)?.rankAfter).toBeLessThan(of(bakery.id)?.rankAfter ?? 0);
    expect(await sheet()).toEqual(before);
  });
  it('is set by managers, whole or not at all, and never over somebody else’s change', async () => {
    expect((await setSheet([BAKERIES], pell)).status).toBe(403);
    const stale = await mara.call('PUT /api/fit-rules', { body: { rules: [BAKERIES], seen: [] } });
    expect([stale.status, stale.body.type]).toEqual([409, 'urn:emporikon:problem:stale']);
    expect(
      (await setSheet([{ field: 'employees', condition: 'at least', value: 'many', points: 1 }])).status,
    ).toBe(422);
    const before = await sheet();
    const { body } = await setSheet([BAKERIES]);
    expect(await sheet()).toHaveLength(1);
    await mara.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
    expect((await sheet()).map((one) => one.field)).toEqual(before.map((one) => one.field));
  });
});

it('the database scores as the core does, whatever the sheet', async () => {
  const firms = [
    { industry: 'Bakeries', employees: 4, country: 'PT', technologies: ['web shop', 'Route planner'] },
    { industry: 'Cafés & more', employees: 40 },
    {},
  ];
  const ids: string[] = [];
  for (const firm of firms)
    ids.push((await newLead(firm, firm.employees === 40 ? 'Head of Student Affairs' : 'Owner')).id);
  const model = (await runInTransaction(house.tools, null, loadMeasure)).model;
  const rule = fc.record({
    field: fc.constantFrom(...(Object.keys(FIT_FIELDS) as FitField[])),
    condition: fc.constantFrom(...FIT_CONDITIONS),
    value: fc.constantFrom('bakeries', 'cafes & more, x', '4', 'student', 'web shop', 'by hand', 'prospect'),
    points: fc.integer({ min: -40, max: 40 }),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(rule, { maxLength: 6 }), async (drawn) => {
      const fit = drawn
        .filter(
          (one) =>
            FIT_FIELDS[one.field].kind !== 'number' || one.condition === 'is known' || one.value === '4',
        )
        .filter(
          (one) =>
            FIT_FIELDS[one.field].kind !== 'number' ||
            ['at least', 'at most', 'is', 'is known'].includes(one.condition),
        )
        .filter(
          (one) =>
            FIT_FIELDS[one.field].kind === 'number' || !['at least', 'at most'].includes(one.condition),
        )
        .filter((one) => FIT_FIELDS[one.field].kind !== 'list' || one.condition !== 'contains')
        .map<FitRule>((one, at) => ({ ...one, id: String(at) }));
      const scoring = scoringSql('SELECT id, now() FROM leads WHERE id IN (:ids)', {
        fit,
        warmth: { halfLifeDays: 14, points: {} },
        model,
      });
      const rows = await house.sequelize.query<FactRow & { fit: number; chance: number; warmth: number }>(
        scoring.sql,
        {
          replacements: { ...scoring.values, ids },
          type: QueryTypes.SELECT,
        },
      );
      expect(rows).toHaveLength(3);
      for (const row of rows) {
        const own = fitOf(fit, fitFactsOf(row)).score;
        expect(Math.abs(row.fit - own)).toBeLessThanOrEqual(1);
        expect(row.chance).toBeCloseTo(winChance(model, winFactsOf(row, row.fit, row.warmth)).chance, 5);
      }
    }),
    { numRuns: 40 },
  );
});

describe('warmth', () => {
  it('lists what they did, from the ledger and from signals, and grows with each', async () => {
    const { body } = await pell.call('POST /api/captures', {
      raw: mail({ from: 'Wanda Warm <wanda@warmbread.example>', sign: 'Wanda Warm\nBuyer\nWarm Bread' }),
    });
    const filed = (
      await pell.call('POST /api/captures/:id/filing', {
        params: { id: body.id },
        body: { nextMove: body.proposedMove, person: 'new' },
      })
    ).body;
    const id = filed.lead?.id ?? '';
    const before = await judged(id);
    expect(before.warmth.parts.map((part) => part.kind).sort()).toEqual(['asked for a quote', 'wrote']);
    await pell.call('POST /api/signals', {
      body: { email: 'wanda@warmbread.example', kind: 'clicked', words: 'price list' },
    });
    const after = await judged(id);
    expect(after.warmth.score).toBeGreaterThan(before.warmth.score);
    expect(after.warmth.parts.find((part) => part.kind === 'clicked')?.words).toBe('price list');
    await house.work();
    const row = (await pell.call('GET /api/leads')).body.items.find((item) => item.id === id);
    expect(Math.abs((row?.scores?.warmth ?? 0) - after.warmth.score)).toBeLessThanOrEqual(1);
    expect(row?.scores?.completeness).toBe(after.completeness);
  });
  it('refuses signals of nobody and from the future; the house sets its own points', async () => {
    expect(
      (await pell.call('POST /api/signals', { body: { email: 'no@body.example', kind: 'opened' } })).status,
    ).toBe(422);
    const { personId } = await newLead();
    expect(
      (
        await pell.call('POST /api/signals', {
          body: { personId, kind: 'opened', at: '2999-01-01T00:00:00Z' },
        })
      ).status,
    ).toBe(422);
    const { version } = (await mara.call('GET /api/warmth-rules')).body;
    const patch = { version, halfLifeDays: 7, points: { wrote: 20 } };
    expect((await mara.call('PATCH /api/warmth-rules', { body: patch })).status).toBe(200);
    const rules = (await pell.call('GET /api/warmth-rules')).body;
    expect([rules.halfLifeDays, rules.kinds.find((kind) => kind.kind === 'wrote')?.points]).toEqual([7, 20]);
  });
});

describe('win chance', () => {
  it('is the base rate with its interval until enough was closed, then learnt, and says how it did unseen', async () => {
    const open = await newLead({ industry: 'Bakeries' });
    expect((await judged(open.id)).chance.base).not.toBeNull();
    await setSheet([BAKERIES]);
    const stages = (await pell.call('GET /api/stages')).body.items;
    const won = stages.find((stage) => stage.kind === 'won')?.id ?? '';
    for (let count = 0; count < 60; count++) {
      const isBakery = count % 2 === 0;
      const { id } = await newLead({ industry: isBakery ? 'Bakeries' : 'Couriers' });
      if (isBakery !== (count % 10 === 3)) {
        const { deal } = (await pell.call('POST /api/leads/:id/conversion', { params: { id } })).body;
        await pell.call('PATCH /api/deals/:id', {
          params: { id: deal.id },
          body: { version: 1, stageId: won },
        });
      } else
        await pell.call('PATCH /api/leads/:id', {
          params: { id },
          body: { version: 1, status: 'dropped', dropReason: count % 3 ? 'Too far' : 'too far ' },
        });
    }
    await house.work();
    await trainWinChance(house.tools);
    const model = (await pell.call('GET /api/win-model')).body;
    expect([model.kind, model.closed]).toEqual(['learnt', 60]);
    expect(model.held?.brier).toBeLessThan(model.held?.baseBrier ?? 0);
    const courier = await newLead({ industry: 'Couriers' });
    const [likely, unlikely] = [(await judged(open.id)).chance, (await judged(courier.id)).chance];
    expect(likely.chance).toBeGreaterThan(unlikely.chance + 0.3);
    expect(likely.reasons[0]?.words).toBe('fit speaks for it');
    const drops = (await pell.call('GET /api/figures/drops')).body;
    expect(drops.reasons).toHaveLength(1);
    expect(drops.dropped).toBe(drops.reasons[0]?.count);
    const since = (await pell.call('GET /api/figures/drops', { query: { since: '2999-01-01' } })).body;
    expect([since.dropped, since.reasons]).toEqual([0, []]);
    expect((await pell.call('POST /api/win-model/training')).status).toBe(403);
    expect((await mara.call('POST /api/win-model/training')).body).toEqual({ asked: true });
    await house.work();
    const again = (await pell.call('GET /api/win-model')).body;
    expect([again.kind, again.closed, again.madeAt !== model.madeAt]).toEqual(['learnt', 60, true]);
  }, 120_000);
  it('a training that is interrupted leaves the model before in use', async () => {
    const before = await WinModelRow.count();
    const broken = { ...house.tools, newId: () => 'not an id' };
    await expect(trainWinChance(broken)).rejects.toThrow();
    expect(await WinModelRow.count()).toBe(before);
    expect((await pell.call('GET /api/win-model')).body.kind).toBe('learnt');
  });
  it('of a lead that is there no more is 404', async () => {
    await expect(
      runInTransaction(house.tools, null, (context) => judgeLead(context, crypto.randomUUID())),
    ).rejects.toThrow('There is no such lead.');
  });
});

it('a parked lead comes back on its day to where it was, and not before', async () => {
  const { id } = await newLead();
  const set = (body: object) => pell.call('PATCH /api/leads/:id', { params: { id }, body });
  await set({ version: 1, status: 'qualified' });
  await set({ version: 2, status: 'parked', parkedUntil: '2027-03-01' });
  const at = (now: string) => ({ ...house.tools, now: () => new Date(now) });
  const lead = () => runInTransaction(house.tools, null, ({ tx }) => Lead.findByPk(id, { transaction: tx }));
  await bringBack(at('2027-02-28T12:00:00Z'));
  expect((await lead())?.status).toBe('parked');
  await bringBack(at('2027-03-01T06:00:00Z'));
  expect(await lead()).toMatchObject({ status: 'qualified', parkedUntil: null });
  const { items } = (await pell.call('GET /api/history', { query: { table: 'leads', id } })).body;
  expect(items[0]?.label).toMatch(/came back/);
});

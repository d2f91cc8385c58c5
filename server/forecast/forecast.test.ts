import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const month = (ahead: number): string => {
  const now = new Date();
  return new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + ahead, 15)).toISOString().slice(0, 7);
};
const add = async (body: object) => (await pell.call('POST /api/deals', { body })).body.deal;
const stages = async () => (await pell.call('GET /api/stages')).body.items;
const forecast = async (query: Record<string, string> = {}) =>
  (await pell.call('GET /api/forecast', { query: { months: '4', ...query } })).body;

describe('a forecast', () => {
  it('adds up by month and owner in the house currency, with what has no rate named', async () => {
    const [heard, proposal, signed] = await stages();
    const next = `${month(1)}-20`;
    await add({ title: 'A', stageId: heard?.id, amountMinor: 100_000, expectedClose: next });
    await add({ title: 'B', stageId: proposal?.id, amountMinor: 200_000, expectedClose: next });
    await add({ title: 'Late', stageId: heard?.id, amountMinor: 1000, expectedClose: '2020-01-01' });
    await add({ title: 'Won', stageId: signed?.id, amountMinor: 5000 });
    await add({ title: 'Francs', amountMinor: 5000, currency: 'CHF', expectedClose: next });
    const { months, cells, missing, simulated, currency } = await forecast();
    expect([currency, missing]).toEqual(['EUR', ['CHF']]);
    expect(months.map((month) => month.month)).toEqual([0, 1, 2, 3].map(month));
    expect(months[0]).toMatchObject({
      wonMinor: 5000,
      committedMinor: 5000,
      weightedMinor: 5150,
      bestMinor: 6000,
      deals: 2,
    });
    expect(months[1]).toMatchObject({ committedMinor: 0, weightedMinor: 125_000, bestMinor: 300_000 });
    expect(cells.every((cell) => cell.owner.name === 'Pell Garrick')).toBe(true);
    // Both with 0.15 × 0.55 = 0.0825, so the best tenth begins at the larger one alone, which comes with 0.55.
    expect(simulated.months[1]).toMatchObject({ low: 0, high: 200_000 });
    expect(simulated.total.low).toBeLessThanOrEqual(simulated.total.high);
    const [one, again, other] = [
      await forecast({ seed: '7' }),
      await forecast({ seed: '7' }),
      await forecast({ seed: '8' }),
    ];
    expect(one).toEqual(again);
    expect(one.simulated.total.mean).not.toBe(other.simulated.total.mean);
    expect({ ...one, simulated: null }).toEqual({ ...other, simulated: null });
  });

  it('may go by the win chances', async () => {
    const { basis, months } = await forecast({ basis: 'win' });
    expect(basis).toBe('win');
    expect(months[1]?.bestMinor).toBe(300_000);
    expect((await pell.call('GET /api/forecast', { query: { basis: 'guess' } })).status).toBe(422);
  });

  it('is held against what came, with the deals as they were when the month began', async () => {
    const [heard, , signed] = await stages();
    const last = month(-1);
    const put = async (title: string, minor: number) => {
      const { id } = await add({
        title,
        stageId: heard?.id,
        amountMinor: minor,
        expectedClose: `${last}-25`,
      });
      await house.sequelize.query(`UPDATE deal_states SET at = '${month(-2)}-10' WHERE deal_id = '${id}'`);
      return id;
    };
    const won = await put('Came', 70_000);
    await put('Did not', 30_000);
    const { version } = (await pell.call('GET /api/deals/:id', { params: { id: won } })).body;
    await pell.call('PATCH /api/deals/:id', {
      params: { id: won },
      body: { version, stageId: signed?.id, amountMinor: 75_000 },
    });
    await house.sequelize.query(`UPDATE deals SET closed_at = '${last}-18' WHERE id = '${won}'`);
    const { items } = (await pell.call('GET /api/forecast/back-test', { query: { months: '2' } })).body;
    expect(items.map((item) => item.month)).toEqual([month(-2), last]);
    expect(items[0]).toMatchObject({ bestMinor: 0, wonMinor: 0, isWithin: true });
    expect(items[1]).toMatchObject({
      bestMinor: 100_000,
      weightedMinor: 15_000,
      wonMinor: 75_000,
      seenMinor: 75_000,
    });
  });
});

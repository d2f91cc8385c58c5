import type { Step } from '@emporikon/core/bulk/types';
import { useHouse } from '../testing/harness';

const use = useHouse();
const prepare = (id: string, steps: readonly Step[], kind: string) =>
  use.pell.call('POST /api/bulk-changes', { body: { kind, on: { ids: [id] }, steps } });

it('own fields of companies and deals, and tags of deals, are changed at once and taken back at once', async () => {
  const made = [
    (await use.pell.call('POST /api/companies', { body: { name: 'Bulk & Co' } })).body.company.id,
    (await use.pell.call('POST /api/deals', { body: { title: 'Bulk deal' } })).body.deal.id,
  ];
  const at = { company: made[0] ?? '', deal: made[1] ?? '' };
  for (const [kind, id] of Object.entries(at) as ['company' | 'deal', string][]) {
    const added = await use.mara.call('POST /api/fields', {
      body: { record: kind, label: `Plan of a ${kind}`, kind: 'choice', options: ['Basic', 'Complete'] },
    });
    const { key } = added.body.field;
    const wrong = await prepare(id, [{ do: 'field', key, to: 'Golden' }], kind);
    expect(wrong.status).toBe(422);
    const other = kind === 'deal' ? 'company' : 'deal';
    expect((await prepare(at[other], [{ do: 'field', key, to: 'Basic' }], other)).status).toBe(422);
    const steps: Step[] = [
      { do: 'field', key, to: 'Complete' },
      ...(kind === 'deal' ? [{ do: 'tag' as const, tags: ['market'] }] : []),
    ];
    const bulk = (await prepare(id, steps, kind)).body.change.id;
    await use.pell.call('POST /api/bulk-changes/:id/start', { params: { id: bulk } });
    await use.house.work();
    const valueNow = async () =>
      (
        await use.pell.call('GET /api/records/:record/:id/fields', { params: { record: kind, id } })
      ).body.items.find((one) => one.key === key)?.value;
    const tagsNow = async () =>
      kind === 'deal' ? (await use.pell.call('GET /api/deals/:id', { params: { id } })).body.tags : [];
    expect([await valueNow(), await tagsNow()]).toEqual(['Complete', kind === 'deal' ? ['market'] : []]);
    await use.pell.call('POST /api/bulk-changes/:id/undo', { params: { id: bulk } });
    await use.house.work();
    expect([await valueNow(), await tagsNow()]).toEqual(['', []]);
  }
});

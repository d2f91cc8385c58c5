import { FilingInput } from '@emporikon/contract/filing';
import { asInput, type FilingChoices } from './choices';

const nothing: FilingChoices = { as: null, tags: [], note: ' ' };

it('sends only what was chosen', () => {
  expect(asInput(nothing)).toEqual({});
  expect(asInput({ ...nothing, as: 'person', tags: ['fair'], note: ' met at the fair ' })).toEqual({
    as: 'person',
    tags: ['fair'],
    note: 'met at the fair',
  });
});

it('a deal goes with what is known of it, and only where a deal is to be made', () => {
  const deal = { dealTitle: ' Eight bikes ', amountMinor: 4_000_000, currency: 'EUR', stageId: 's' };
  expect(asInput({ ...nothing, as: 'deal', ...deal })).toEqual({
    as: 'deal',
    deal: { title: 'Eight bikes', amountMinor: 4_000_000, currency: 'EUR', stageId: 's' },
  });
  expect(asInput({ ...nothing, as: 'deal', dealTitle: 'Bikes' })).toEqual({
    as: 'deal',
    deal: { title: 'Bikes', amountMinor: null },
  });
  expect(asInput({ ...nothing, as: 'lead', ...deal })).toEqual({ as: 'lead' });
  expect(asInput({ ...nothing, as: 'deal', dealTitle: '  ' })).toEqual({ as: 'deal' });
});

it('is what the contract takes', () => {
  const id = '5f0c7c9e-6c1e-4c53-9a51-0c1f1f3f9a11';
  const input = asInput({
    as: 'deal',
    ownerId: id,
    tags: ['a', 'b'],
    note: 'n',
    dealTitle: 'Bikes',
    amountMinor: 100,
    currency: 'EUR',
    stageId: id,
  });
  expect(FilingInput.safeParse(input).success).toBe(true);
});

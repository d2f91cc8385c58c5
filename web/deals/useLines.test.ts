import '../testing/browser';
import type { DealDetail } from '@emporikon/contract/deals';
import { nextTick, ref } from 'vue';
import { openPage, refusal, settle, type Page } from '../testing/page';
import { useUndo } from '../shell/undo';
import { useLines } from './useLines';

jest.mock('../shell/liveStream', () => ({ shareStream: () => () => undefined }));

const ID = '5f0c7c9e-6c1e-4c53-9a51-0c1f1f3f9a11';
const line = (over: object = {}) => ({
  id: 'l1',
  productId: null,
  name: 'Long bike',
  quantity: '8',
  unitMinor: 500_000,
  discountPercent: '10',
  taxPercent: '20',
  charged: 'once',
  periods: 1,
  netMinor: 3_600_000,
  ...over,
});
const dealOf = (over: object = {}): DealDetail =>
  ({ id: ID, version: 1, currency: 'EUR', lines: [line()], ...over }) as unknown as DealDetail;

let page: Page;
let changes = 0;
const shown = ref(dealOf());
beforeEach(() => {
  jest.useFakeTimers({ doNotFake: ['setImmediate'] });
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  changes = 0;
  shown.value = dealOf();
  page = openPage({
    'GET /api/products': {
      items: [
        { id: 'p1', name: 'Service plan', taxPercent: '20', charged: 'month', active: true },
        { id: 'p2', name: 'Old trailer', taxPercent: '0', charged: 'once', active: false },
      ],
    },
    [`PUT /api/deals/${ID}/lines`]: { eventId: 'e1' },
  });
});
afterEach(() => {
  jest.useRealTimers();
  page.close();
});
const open = async () => {
  const used = page.run(() =>
    useLines(
      () => shown.value,
      () => void changes++,
    ),
  );
  await settle();
  return used;
};
const put = () => page.asked.filter(({ method }) => method === 'PUT').map(({ body }) => body);

it('shows the lines as they are edited, with their totals as one types', async () => {
  const { draft, totals } = await open();
  expect(draft.value).toMatchObject([{ quantity: '8', price: '5000' }]);
  expect(totals.value).toMatchObject({ netMinor: 3_600_000 });
  draft.value[0]!.quantity = '2,5';
  draft.value[0]!.price = '1.000,50';
  expect(totals.value).toMatchObject({ netMinor: 225_113 });
  draft.value[0]!.discountPercent = '12,5';
  draft.value[0]!.taxPercent = '7,5';
  expect(totals.value?.netMinor).toBe(218_859);
  expect(totals.value?.taxes).toMatchObject([{ percent: 7.5 }]);
  draft.value[0]!.quantity = 'many';
  expect(totals.value).toBeNull();
});

it('saves over the version it began from, says so with its undo, and is whole again', async () => {
  const { draft, isTouched, add, drop, save } = await open();
  add();
  await nextTick();
  Object.assign(draft.value[1]!, { name: 'Rain cover', price: '99.5' });
  drop(0);
  await save();
  expect(put()).toMatchObject([
    { version: 1, lines: [{ name: 'Rain cover', quantity: '1', unitMinor: 9950, taxPercent: '20' }] },
  ]);
  expect([isTouched.value, changes, useUndo().told?.eventId]).toEqual([false, 1, 'e1']);
});

it('live updates of the deal change neither what is typed nor the version it is compared with', async () => {
  const { draft, isTouched, save } = await open();
  isTouched.value = true;
  await nextTick();
  draft.value[0]!.quantity = '9';
  shown.value = dealOf({ version: 4, lines: [line({ quantity: '3' })] });
  await nextTick();
  expect(draft.value[0]!.quantity).toBe('9');
  await save();
  expect(put()).toMatchObject([{ version: 1 }]);
});

it('a change of the deal that is not of its lines is no clash', async () => {
  const { draft, isTouched, clash, save } = await open();
  isTouched.value = true;
  await nextTick();
  draft.value[0]!.quantity = '9';
  const answers = [refusal(409, 'stale'), { eventId: 'e2' }];
  page.answers[`PUT /api/deals/${ID}/lines`] = () => answers.shift();
  page.answers[`GET /api/deals/${ID}`] = dealOf({ version: 5 });
  await save();
  expect(put()).toMatchObject([{ version: 1 }, { version: 5 }]);
  expect([clash.value, isTouched.value]).toEqual([null, false]);
});

it('a change of the same lines by somebody else is shown beside one’s own, and nothing is written over', async () => {
  const { draft, isTouched, clash, save, reset } = await open();
  isTouched.value = true;
  await nextTick();
  draft.value[0]!.quantity = '9';
  page.answers[`PUT /api/deals/${ID}/lines`] = () => refusal(409, 'stale');
  page.answers[`GET /api/deals/${ID}`] = dealOf({ version: 5, lines: [line({ quantity: '3' })] });
  await save();
  expect(put()).toHaveLength(1);
  expect([clash.value?.version, draft.value[0]!.quantity, isTouched.value]).toEqual([5, '9', true]);
  reset();
  expect([clash.value, isTouched.value]).toEqual([null, false]);
});

it('a product brings its name, tax, price and how it is charged; one that is not sold any more is not offered', async () => {
  const { draft, offered, add, take } = await open();
  page.answers['GET /api/products/p1/price'] = { unitMinor: 2500, rate: '1 GBP = 1.2 EUR' };
  expect(offered.value.map(({ id }) => id)).toEqual(['p1']);
  add();
  await take(draft.value[1]!, 'p1');
  expect(draft.value[1]).toMatchObject({
    productId: 'p1',
    name: 'Service plan',
    price: '25',
    charged: 'month',
    periods: 12,
  });
  expect(useUndo().told?.text).toContain('1 GBP = 1.2 EUR');
  page.answers['GET /api/products/p1/price'] = refusal(422, 'invalid');
  await take(draft.value[1]!, 'p1');
  expect(useUndo().told).toMatchObject({ wrong: true });
});

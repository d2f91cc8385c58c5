import '../testing/browser';
import type { Me } from '@emporikon/contract/session';
import type { SheetAnswer, SheetRequest } from '../workers/callSheet';
import { nextTick, ref } from 'vue';
import { useSession } from '../shell/session';
import { openPage, type Page } from '../testing/page';
import { useSheet } from './useSheet';

class Reader {
  static last: Reader;
  onmessage: (message: { data: SheetAnswer }) => void = () => undefined;
  asked: SheetRequest[] = [];
  isOver = false;
  constructor() {
    Reader.last = this;
  }
  postMessage(request: SheetRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.isOver = true;
  }
  answer(serial: number, took: number): void {
    this.onmessage({ data: { serial, took, reading: { who: `of ${serial}` } as never } });
  }
}

let page: Page;
beforeEach(() => {
  Object.assign(globalThis, { Worker: Reader });
  page = openPage();
});
afterEach(() => page.close());

it('reads each state of the note on the clock and in the currency of the rep', async () => {
  useSession().me = { timeZone: 'Europe/Lisbon', currency: 'EUR', country: 'PT' } as Me;
  const text = ref('spoke');
  page.run(() => useSheet(text));
  text.value = 'spoke to Ines';
  await nextTick();
  expect(Reader.last.asked.map((request) => [request.serial, request.text])).toEqual([
    [1, 'spoke'],
    [2, 'spoke to Ines'],
  ]);
  expect(Reader.last.asked[0]?.options).toMatchObject({
    zone: 'Europe/Lisbon',
    currency: 'EUR',
    country: 'PT',
  });
  expect(Reader.last.asked[0]?.options.at).toMatch(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d[+-]\d\d:\d\d$/);
});

it('an answer to older words never replaces a newer one', async () => {
  const text = ref('a');
  const { reading, took } = page.run(() => useSheet(text));
  text.value = 'ab';
  await nextTick();
  Reader.last.answer(1, 9);
  expect([reading.value, took.value]).toEqual([null, 0]);
  Reader.last.answer(2, 3);
  expect([reading.value, took.value]).toEqual([{ who: 'of 2' }, 3]);
});

it('ends its worker with the page', () => {
  page.run(() => useSheet(ref('')));
  page.close();
  expect(Reader.last.isOver).toBe(true);
});

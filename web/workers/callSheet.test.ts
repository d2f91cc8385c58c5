import type { SheetAnswer, SheetRequest } from './callSheet';

it('reads what it is sent, and says of which words that is the reading', async () => {
  const said: SheetAnswer[] = [];
  const self = { postMessage: (answer: SheetAnswer) => said.push(answer), onmessage: null as unknown };
  Object.assign(globalThis, { self });
  await import('./callSheet');
  const ask = (data: SheetRequest): void =>
    (self.onmessage as (message: { data: SheetRequest }) => void)({ data });
  ask({
    serial: 7,
    text: 'spoke to Ines Duarte, needs 8 bikes',
    options: { at: '2026-11-27T10:00:00+00:00' },
  });
  ask({ serial: 8, text: '', options: { at: '2026-11-27T10:00:00+00:00' } });
  expect(said.map(({ serial }) => serial)).toEqual([7, 8]);
  expect(JSON.stringify(said[0]?.reading)).toContain('Ines Duarte');
  expect(said.every(({ took }) => took >= 0)).toBe(true);
});

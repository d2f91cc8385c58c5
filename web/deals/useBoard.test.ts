import '../testing/browser';
import type { Board, DealRow } from '@emporikon/contract/deals';
import { ref } from 'vue';
import { openPage, settle, type Page } from '../testing/page';
import { useBoard } from './useBoard';

jest.mock('../shell/liveStream', () => ({ shareStream: () => () => undefined }));

const PIPE = '5f0c7c9e-6c1e-4c53-9a51-0c1f1f3f9a11';
const [PROPOSAL, SIGNED] = ['stage-a', 'stage-b'];
const deal = (id: string, stageId: string): DealRow => ({ id, stageId }) as DealRow;
const board = (over: Partial<Board> = {}): Board =>
  ({
    stages: [
      { id: PROPOSAL, next: 'c1' },
      { id: SIGNED, next: null },
    ],
    deals: [deal('1', PROPOSAL), deal('2', SIGNED)],
    ...over,
  }) as unknown as Board;
const ids = (deals: readonly DealRow[]): string[] => deals.map(({ id }) => id);

let page: Page;
const lane: Record<string, { items: DealRow[]; next: string | null }> = {};
beforeEach(() => {
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  Object.assign(lane, {
    c1: { items: [deal('3', PROPOSAL)], next: 'c2' },
    c2: { items: [deal('4', PROPOSAL)], next: null },
  });
  page = openPage({
    [`GET /api/pipelines/${PIPE}/board`]: () => board(),
    [`GET /api/pipelines/${PIPE}/board/${PROPOSAL}`]: ({ query }: { query: URLSearchParams }) =>
      lane[query.get('cursor') ?? ''],
  });
});
afterEach(() => page.close());
const open = async (query: () => { owner?: string } = () => ({})) => {
  const used = page.run(() => useBoard(ref(PIPE), query));
  await settle();
  return used;
};
const further = (): string[] =>
  page.asked.filter(({ path }) => path.endsWith(PROPOSAL)).map(({ query }) => query.get('cursor') ?? '');

it('shows the first cards of each lane, and more of one as far as it is asked for', async () => {
  const { cardsOf, nextOf, more } = await open();
  expect([ids(cardsOf(PROPOSAL)), ids(cardsOf(SIGNED)), nextOf(PROPOSAL), nextOf(SIGNED)]).toEqual([
    ['1'],
    ['2'],
    'c1',
    null,
  ]);
  await more(PROPOSAL);
  expect([ids(cardsOf(PROPOSAL)), nextOf(PROPOSAL)]).toEqual([['1', '3'], 'c2']);
  await more(PROPOSAL);
  await more(PROPOSAL);
  await more(SIGNED);
  expect([ids(cardsOf(PROPOSAL)), nextOf(PROPOSAL)]).toEqual([['1', '3', '4'], null]);
  expect(further()).toEqual(['c1', 'c2']);
});

it('asks once for the same cards, however often one scrolls there meanwhile', async () => {
  const { more, cardsOf } = await open();
  await Promise.all([more(PROPOSAL), more(PROPOSAL), more(PROPOSAL)]);
  expect(further()).toEqual(['c1']);
  expect(ids(cardsOf(PROPOSAL))).toEqual(['1', '3']);
});

it('read again, it has as many cards as before, by the cursors of now', async () => {
  const { load, more, cardsOf } = await open();
  await more(PROPOSAL);
  lane.n1 = { items: [deal('9', PROPOSAL)], next: null };
  page.answers[`GET /api/pipelines/${PIPE}/board`] = board({
    stages: [{ id: PROPOSAL, next: 'n1' }] as unknown as Board['stages'],
    deals: [deal('8', PROPOSAL)],
  });
  await load();
  await settle();
  expect(ids(cardsOf(PROPOSAL))).toEqual(['8', '9']);
});

it('after a failure, more can be asked for again', async () => {
  const { more, cardsOf } = await open();
  delete lane.c1;
  page.answers[`GET /api/pipelines/${PIPE}/board/${PROPOSAL}`] = () => {
    throw new Error('away');
  };
  await expect(more(PROPOSAL)).rejects.toThrow();
  page.answers[`GET /api/pipelines/${PIPE}/board/${PROPOSAL}`] = { items: [deal('3', PROPOSAL)], next: null };
  await more(PROPOSAL);
  expect(ids(cardsOf(PROPOSAL))).toEqual(['1', '3']);
});

it('narrows further cards as it narrows the first', async () => {
  const { more } = await open(() => ({ owner: 'me' }));
  await more(PROPOSAL);
  expect(page.asked.map(({ query }) => query.get('owner'))).toEqual(['me', 'me']);
});

import { keysOf } from './keys';

const does = (path: string): string[] => keysOf(path).map(({ does: words }) => words);

it('lists the keys of the page, and those that work everywhere', () => {
  expect(does('/arrivals')).toContain('Set aside');
  expect(does('/arrivals/set-aside')).toContain('Next arrival');
  expect(does('/people/triage')).toContain('Skip');
  expect(does('/leads/triage')).toEqual(does('/people/triage'));
  expect(does('/deals')).toContain('Lanes or table');
  expect(does('/deals/0190a000-0000-7000-8000-000000000001')).not.toContain('Lanes or table');
  for (const path of ['/arrivals', '/settings/fit', '/nowhere'])
    expect(does(path)).toContain('Find a record, or type what to do');
  expect(does('/settings/fit')).toHaveLength(4);
});

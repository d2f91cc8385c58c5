import fc from 'fast-check';
import {
  completeRights,
  describeRight,
  isRight,
  mayDo,
  RIGHTS,
  RIGHTS_OF,
  unseenBy,
  withoutRight,
} from './rights';

const some = fc.subarray([...RIGHTS]);

it('roles that are always there hold ever more: a rep no settings, a manager all but keeping times', () => {
  const [rep, manager, admin] = [RIGHTS_OF.rep, RIGHTS_OF.manager, RIGHTS_OF.admin];
  expect([...rep].every((right) => manager.has(right))).toBe(true);
  expect([...manager].every((right) => admin.has(right))).toBe(true);
  expect([...rep].filter((right) => right.startsWith('settings.'))).toEqual([]);
  expect(RIGHTS.filter((right) => !rep.has(right) && !right.startsWith('settings.'))).toEqual([
    'people.delete',
  ]);
  expect(RIGHTS.filter((right) => !manager.has(right))).toEqual(['settings.data']);
});

it('a role of the organisation’s own counts for itself, whatever the role that it is based on may do', () => {
  expect(mayDo({ role: 'manager', granted: ['deals.see'] }, 'people.see')).toBe(false);
  expect(mayDo({ role: 'rep', granted: ['settings.deals'] }, 'settings.deals')).toBe(true);
  expect(mayDo({ role: 'rep', granted: null }, 'settings.deals')).toBe(false);
  expect(unseenBy({ role: 'rep', granted: completeRights(['people.change', 'deals.bulk']) })).toEqual([
    'companies',
    'leads',
    'tasks',
    'projects',
    'ledger',
    'captures',
  ]);
});

it('rights are completed once, in order, without what does not exist', () => {
  expect(
    completeRights(['deals.bulk', 'people.fly', 'deals.bulk', 'settings.users', 'settings.deals']),
  ).toEqual(['deals.see', 'deals.change', 'deals.bulk', 'settings.deals']);
  fc.assert(
    fc.property(some, (given) => {
      const whole = completeRights(given);
      expect(completeRights([...whole].reverse())).toEqual(whole);
      expect(given.every((right) => whole.includes(right))).toBe(true);
      for (const right of whole) {
        const area = right.split('.')[0] ?? '';
        if (area !== 'settings') expect(whole).toContain(`${area}.see`);
      }
    }),
  );
});

it('what is taken away stays away: completing the rest does not bring it back', () => {
  fc.assert(
    fc.property(some, fc.constantFrom(...RIGHTS), (given, gone) => {
      const left = withoutRight(completeRights(given), gone);
      expect(left).not.toContain(gone);
      expect(completeRights(left)).toEqual(left);
    }),
  );
});

it('each right reads as words of its own', () => {
  expect(describeRight('people.export')).toBe('export people');
  expect(describeRight('settings.scoring')).toBe('change the scoring');
  expect(new Set(RIGHTS.map(describeRight)).size).toBe(RIGHTS.length);
  expect(RIGHTS.every(isRight)).toBe(true);
});

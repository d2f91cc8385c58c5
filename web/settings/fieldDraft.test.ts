import { bodyOf, draftOf, marksOf } from './fieldDraft';

const draft = (more: object) => ({ ...draftOf(null, 'EUR'), label: 'Size', ...more });

it('what does not belong to the kind of a field is not sent', () => {
  expect(
    bodyOf(draft({ kind: 'choice', choices: ' Small \n\nLarge', formula: '1', isUnique: true })),
  ).toMatchObject({
    options: ['Small', 'Large'],
    formula: '',
    isUnique: false,
  });
  expect(bodyOf(draft({ kind: 'money', currency: 'gbp', choices: 'x' })).options).toEqual(['GBP']);
  expect(bodyOf(draft({ kind: 'number', isUnique: true, preset: '3' })).preset).toBe('');
  expect(bodyOf(draft({ kind: 'person', preset: 'Ann' })).preset).toBe('');
  expect(bodyOf(draft({ kind: 'formula', formula: '1 + 1', preset: '3' }))).toMatchObject({
    formula: '1 + 1',
    preset: '',
  });
});

it('a field is filled in as it is kept, and comes back the same', () => {
  const body = bodyOf(draft({ kind: 'several', choices: 'Mon\nTue', tab: 'Service', isAsked: true }));
  const kept = {
    ...body,
    id: '1',
    version: 1,
    key: 'size',
    record: 'deal',
    kind: 'several',
    active: true,
  } as const;
  expect(bodyOf(draftOf(kept, 'EUR'))).toEqual(body);
});

it('what is to be known of a field is said in a line', () => {
  const field = {
    ...bodyOf(draft({ preset: 'None', onlyFor: ['p1'], isAsked: true, changedBy: 'admins' })),
    active: false,
  };
  expect(marksOf(field, (id) => ({ p1: 'Bikes' })[id] ?? id)).toBe(
    'retired · changed by admins · worth asking · begins with None · only for Bikes',
  );
});

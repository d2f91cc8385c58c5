import { redactData, redactor } from './redact';

const redact = redactor({
  names: ['Zoë Okafor-Lund', 'Zoë', 'Okafor-Lund', 'Li'],
  exact: ['zoe@okafor.example', 'okafor.example/zoe'],
  phones: ['+442079460958', '+351910555014'],
});

it.each([
  ['Spoke to Zoë Okafor-Lund today', 'Spoke to [erased] today'],
  ['zoë okafor-lund, ZOË', '[erased], [erased]'],
  ['Zoë’s order', '[erased] order'],
  ['a line that breaks: Zoë\nOkafor-Lund.', 'a line that breaks: [erased].'],
  ['Zoe\u0308 wrote', '[erased] wrote'],
  ['mail zoe@okafor.example, or ZOE@OKAFOR.EXAMPLE', 'mail [erased], or [erased]'],
])('names and addresses go: %s', (text, left) => expect(redact(text)).toBe(left));

it.each([
  '020 7946 0958',
  '+44 20 7946 0958',
  '+442079460958',
  '(020) 7946-0958',
  '0044 20 7946 0958',
  '+351 910 555 014',
  '910555014',
])('a number goes however it is written: %s', (number) =>
  expect(redact(`Ring ${number} at four.`)).toBe('Ring [erased] at four.'),
);

it.each([
  'Zoëlle and Okafor stay',
  'She lives in Lisbon',
  'Order 9460958123 of 12 bikes',
  'Li is a name too short to be told from other words',
  '',
])('what is somebody else’s stays: %s', (text) => expect(redact(text)).toBe(text));

it('goes through plain data and leaves its keys and numbers', () => {
  const data = { title: 'For Zoë', Zoë: [1, null, { note: 'zoe@okafor.example' }], at: 7 };
  expect(redactData(data, redact)).toEqual({
    title: 'For [erased]',
    Zoë: [1, null, { note: '[erased]' }],
    at: 7,
  });
});

it('of nobody it takes nothing', () =>
  expect(redactor({ names: [], exact: [''], phones: ['12'] })('All 12 stay')).toBe('All 12 stay'));

it('works through a long text that repeats what a pattern begins with in time that grows with its length', () => {
  const long = `${'+44 20 7946 '.repeat(20_000)}Zoë`;
  expect(redact(long).endsWith('[erased]')).toBe(true);
});

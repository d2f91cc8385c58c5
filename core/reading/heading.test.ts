import { headingOf, titleOfWork } from './heading';

const message = (over: Partial<Parameters<typeof headingOf>[1]> = {}): Parameters<typeof headingOf>[1] => ({
  from: { name: 'Ann Reed', address: 'ann@reed.example' },
  to: [{ name: '', address: 'pell@wharfside.example' }],
  subject: '',
  text: '',
  side: 'theirs',
  ...over,
});

it('says whom it is from: the name that was read, else the sender’s, else their address', () => {
  expect(headingOf('email', message(), 'Dr Ann Reed').from).toBe('Dr Ann Reed');
  expect(headingOf('email', message()).from).toBe('Ann Reed');
  expect(headingOf('email', message({ from: { name: '', address: 'ann@reed.example' } })).from).toBe(
    'ann@reed.example',
  );
  expect(headingOf('form', message({ from: null })).from).toBe('a form');
  expect(headingOf('email', message({ side: 'ours' })).from).toBe('to pell@wharfside.example');
  // A number is written as its country writes it (libphonenumber, international format).
  expect(headingOf('call', message({ from: { name: '', address: '+447700900321' } })).from).toBe(
    '+44 7700 900321',
  );
});

it('says what it is about: its subject, else its first words, cut between words', () => {
  expect(headingOf('email', message({ subject: 'Bikes', text: 'Hello' })).subject).toBe('Bikes');
  expect(headingOf('text', message({ text: '\n  Met Ann\nat the fair' })).subject).toBe('Met Ann');
  const long = headingOf('text', message({ text: 'word '.repeat(60) })).subject;
  expect([long.length <= 91, long.endsWith('word…')]).toEqual([true, true]);
  expect(headingOf('text', message({ text: 'x'.repeat(300) })).subject).toBe(`${'x'.repeat(90)}…`);
  expect(headingOf('call', message()).subject).toBe('Missed call');
});

it('names work by what is wanted, else by the subject without the marks of answers', () => {
  expect(titleOfWork('8 long bikes', 'Re: hello')).toBe('8 long bikes');
  expect(titleOfWork(null, 'Re: AW: Fwd: Eight bikes')).toBe('Eight bikes');
  expect(titleOfWork(null, 'Re:')).toBe('A message');
  expect(titleOfWork(null, 'b'.repeat(500))).toHaveLength(200);
});

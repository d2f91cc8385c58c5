import { forwardSubject, replyRecipients, replySubject, threadHeaders } from './replying';

const ana = { name: 'Ana', address: 'Ana@padaria.example' };
const rui = { name: 'Rui', address: 'rui@padaria.example' };
const pell = { name: 'Pell', address: 'pell@wharfside.example' };
const isOurs = (address: string): boolean => address.endsWith('@wharfside.example');

it('a subject says once that it is an answer, in whichever language it said so', () => {
  expect(['Bikes', 'Re: Bikes', 'RE: Re: AW: Bikes', 'Sv: Bikes', 'Re[2]: Bikes'].map(replySubject)).toEqual(
    Array(5).fill('Re: Bikes'),
  );
  expect(['Bikes', 'Fwd: Bikes', 'WG: Fw: Bikes'].map(forwardSubject)).toEqual(Array(3).fill('Fwd: Bikes'));
  expect(replySubject('Research: bikes')).toBe('Re: Research: bikes');
});

it('answers whoever wrote, or where they ask answers to go (RFC 5322, 3.6.2)', () => {
  const envelope = { from: ana, replyTo: [], to: [pell], cc: [rui] };
  expect(replyRecipients(envelope, isOurs, false)).toEqual({ to: [ana], cc: [] });
  expect(replyRecipients({ ...envelope, replyTo: [rui] }, isOurs, false)).toEqual({ to: [rui], cc: [] });
});

it('answers all but ourselves, each address once', () => {
  const again = { name: '', address: 'ANA@padaria.example ' };
  expect(
    replyRecipients({ from: ana, replyTo: [], to: [pell, again], cc: [rui, pell] }, isOurs, true),
  ).toEqual({
    to: [ana],
    cc: [rui],
  });
});

it('an answer to a message of our own goes on to those it went to', () => {
  const envelope = { from: pell, replyTo: [pell], to: [ana], cc: [rui] };
  expect(replyRecipients(envelope, isOurs, false)).toEqual({ to: [ana], cc: [] });
  expect(replyRecipients(envelope, isOurs, true)).toEqual({ to: [ana], cc: [rui] });
});

it('refers to what its parent refers to, then to the parent (RFC 5322, 3.6.4)', () => {
  expect(threadHeaders('<3@x>', ['<1@x>', '<2@x>'])).toEqual({
    inReplyTo: '<3@x>',
    references: ['<1@x>', '<2@x>', '<3@x>'],
  });
  expect(threadHeaders(null, [])).toEqual({ inReplyTo: null, references: [] });
  const long = Array.from({ length: 200 }, (_, at) => `<${at}@x>`);
  const { references } = threadHeaders('<last@x>', long);
  expect([references.length, references[0], references.at(-1)]).toEqual([50, '<0@x>', '<last@x>']);
});

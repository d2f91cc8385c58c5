import { dictatedNumbers } from './dictated';
import { readNote } from './read';

const digits = (text: string): string[] => dictatedNumbers(text).map((one) => one.digits);

describe('numbers that are said word by word', () => {
  it.each([
    ['his cell is two one two five five five oh one four two', ['2125550142']],
    ['oh seven seven double oh nine hundred', []],
    ['zero seven seven double oh, nine double oh, one two three', ['07700900123']],
    ['null drei null zwei drei eins zwei fünf null eins zwei', ['03023125012']],
    ['zéro six trente neuf', []],
    ['treble four nine six oh one two', ['44496012']],
    ['two bikes and three trailers for four shops', []],
    ['twelve seats, twenty stems', []],
    ['zéro six, trente-neuf, quatre-vingt-dix-huit, soixante-dix-sept, vingt et un', ['0639987721']],
    ['son portable: zero six trente neuf quatre vingt dix huit douze zero zero', ['0639981200']],
    ['zéro six trente-neuf, douze vélos et quatre remorques', []],
    ['one two three', []],
    ['one '.repeat(40), []],
  ])('%s', (text, expected) => expect(digits(text)).toEqual(expected));

  it('are claimed as the number they are, with the words they were said in', () => {
    const text = 'Ada Crumb, Crumb & Co. ring zero seven seven double oh nine double oh one two three';
    const phone = readNote(text, { at: '2026-11-24T10:00:00+00:00', country: 'GB' }).claims.find(
      ({ field }) => field === 'phone',
    );
    expect(phone).toMatchObject({ normalized: '+447700900123', type: 'mobile' });
    expect(text.slice(phone?.span?.start, phone?.span?.end)).toMatch(/^zero .* three$/);
  });
});

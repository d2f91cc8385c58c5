import type { Line } from '../email/layers';
import { partSignature } from './block';
import { voteCountries } from './countries';
import { readIntroduction } from './introduction';
import { cutLine } from './pieces';
import { readSignature } from './read';
import { labelOf, titleLikeness, VALEDICTION } from './words';

const linesOf = (text: string): Line[] => {
  let start = 0;
  return text.split('\n').map((one) => {
    const line = { text: one, start };
    start += one.length + 1;
    return line;
  });
};
const cut = (text: string) => cutLine({ text, start: 0 }, 0).map((piece) => `${piece.kind}:${piece.value}`);
const parted = (text: string, name = 'Ines Duarte', domain: string | null = 'padariasol.example') => {
  const { body, signature } = partSignature(linesOf(text), name, domain);
  const join = (lines: readonly Line[]): string =>
    lines
      .map((line) => line.text.trim())
      .filter(Boolean)
      .join('/');
  return [join(body), join(signature)];
};

describe('a line of a signature is cut into its pieces', () => {
  it.each([
    ['Ines Duarte | Buyer | Padaria Sol', ['text:Ines Duarte', 'text:Buyer', 'text:Padaria Sol']],
    ['T: 0113 496 0777 | M: 07700 900412', ['phone:0113 496 0777', 'phone:07700 900412']],
    ['01 99 00 80 34 / 06.39.98.80.42', ['phone:01 99 00 80 34', 'phone:06.39.98.80.42']],
    ['612 34 56 84   931 23 45 84', ['phone:612 34 56 84', 'phone:931 23 45 84']],
    [
      'ines@padariasol.example · www.padariasol.example',
      ['email:ines@padariasol.example', 'url:www.padariasol.example'],
    ],
    ['Sr. Manager - Procurement', ['text:Sr. Manager - Procurement']],
    ['Owner / Baker', ['text:Owner / Baker']],
    ['Rua do Forno 21, 4710-229 Braga', ['text:Rua do Forno 21, 4710-229 Braga']],
    ['Open 24/12/2026, VAT no. 123456789', ['text:Open 24/12/2026, VAT no. 123456789']],
  ])('%s', (text, pieces) => expect(cut(text)).toEqual(pieces));

  it('and every piece keeps its place', () => {
    const text = 'Ines Duarte • M +351 910 555 014 • ines@padariasol.example';
    for (const piece of cutLine({ text, start: 100 }, 0))
      expect(text.slice(piece.start - 100, piece.end - 100)).toBe(piece.value);
  });
});

describe('the signature is parted from what is said', () => {
  it.each([
    [
      'by leave taken',
      'Yes please.\n\nBest wishes,\nInes Duarte\nBuyer',
      'Yes please.',
      'Best wishes,/Ines Duarte/Buyer',
    ],
    ['by the name alone', 'Yes please.\n\nInes Duarte\nBuyer', 'Yes please.', 'Ines Duarte/Buyer'],
    ['by numbers alone', 'Yes please.\n\n+351 910 555 014', 'Yes please.', '+351 910 555 014'],
    [
      'with the firm and its numbers above the name',
      'Can it hold ice?\n\nPadaria Sol\n+351 253 555 020\n\nInes Duarte',
      'Can it hold ice?',
      'Padaria Sol/+351 253 555 020/Ines Duarte',
    ],
    [
      'not by a date in a sentence of its own',
      'We decide by 15/12/2026.\n\nBest wishes\nInes Duarte',
      'We decide by 15/12/2026.',
      'Best wishes/Ines Duarte',
    ],
    [
      'not by thanks within the text',
      'Thanks for the offer, we take it.',
      'Thanks for the offer, we take it.',
      '',
    ],
  ])('%s', (_, text, body, signature) => expect(parted(text)).toEqual([body, signature]));

  it('without the small print and its numbers', () =>
    expect(
      parted(
        'Yes.\n\nRegards\nInes Duarte\n\nThis email is confidential. If you are not the intended recipient call\n+44 20 7946 0999 at once.',
      )[1],
    ).toBe('Regards/Ines Duarte'));
});

describe('labels', () => {
  it.each([
    ['Mob.', 'mobile'],
    ['Handy:', 'mobile'],
    ['Tlm', 'mobile'],
    ['Téléphone', 'phone'],
    ['puh.', 'phone'],
    ['Durchwahl', 'work'],
    ['Telefax', 'fax'],
    ['Privat', 'home'],
    ['Web', 'url'],
    ['Buyer', null],
  ])('%s is %s', (word, kind) => expect(labelOf(word)).toBe(kind));
});

describe('titles', () => {
  it.each([
    'Buyer',
    'Head of Operations',
    'Einkaufsleiterin',
    'Responsable des achats',
    'Sócio-gerente',
    'Daglig leder',
    'VP, Last Mile',
    'Kierownik zakupów',
  ])('%s is one', (text) => expect(titleLikeness(text)).toBeGreaterThan(0));
  it.each(['Padaria Sol', 'Mill Lane', 'Thursday at 11', ''])('%s is none', (text) =>
    expect(titleLikeness(text)).toBe(0),
  );
});

describe('leave is taken in many languages', () => {
  it.each([
    'Kind regards,',
    'Cheers',
    'Mit freundlichen Grüßen',
    'Bien à vous,',
    'Com os melhores cumprimentos',
    'Un saludo',
    'Met vriendelijke groet',
    'Cordiali saluti',
    'Mvh',
    'Pozdrawiam',
  ])('%s', (text) => expect(VALEDICTION.test(text)).toBe(true));
  it.each(['Best price is what we need', 'Thanks to you we sold ten', 'Saluting the flag'])(
    'but not %s',
    (text) => expect(VALEDICTION.test(text)).toBe(false),
  );
});

describe('the country of a number without a code', () => {
  it.each([
    ['the post code', 'Molenweg 3, 3011 AB Rotterdam', ['010 123 4567'], null, '', 'NL'],
    ['the legal form', 'Panificio Bellandi S.r.l.', ['06 12345678'], null, 'cordiali saluti', 'IT'],
    ['another number', '', ['+41 31 555 01 23', '079 555 01 34'], null, '', 'CH'],
    ['the domain', '', ['0171 5550012'], 'brueckner.de', '', 'DE'],
    ['its own shape', '', ['(312) 555-0134'], null, '', 'US'],
    ['the language', '', ['253 555 123'], null, 'com os melhores cumprimentos, obrigado', 'PT'],
  ])('comes from %s', (_, signature, phones, domain, body, country) =>
    expect(voteCountries(signature, phones, domain, body, null)[0]?.[0]).toBe(country),
  );
});

describe('what nobody wrote is not claimed', () => {
  const know = { name: 'Ines Duarte', address: 'ines@padariasol.example', domain: 'padariasol.example' };
  const fields = (signature: string, body = '') =>
    readSignature({ signature: linesOf(signature), body: linesOf(body), know, sentAt: null }).claims.map(
      (claim) => `${claim.field}:${claim.value}`,
    );
  it('a slogan, opening hours and a prize are neither title nor firm', () =>
    expect(
      fields(
        'Ines Duarte\nBuyer\nPadaria Sol\nFresh bread since 1921!\nOpen Monday to Saturday\nWinner of the Golden Loaf 2025',
      ),
    ).toEqual(['jobTitle:Buyer', 'companyName:Padaria Sol']));
  it('somebody else’s number in the text is not theirs', () =>
    expect(fields('Ines Duarte', 'Our driver Mick is on 07700 900123.')).toEqual([]));
  it('nor a booking link on another site', () =>
    expect(fields('Ines Duarte\nhttps://agenda.example/ines')).toEqual([]));
  it('and a sentence that goes on is no part of a firm’s name', () =>
    expect(
      readIntroduction(linesOf("Hello, I run Tadlock Joinery and I'm after a trailer."), {
        name: 'Owen Tadlock',
        address: 'owen@tadlockjoinery.example',
        domain: 'tadlockjoinery.example',
      }).map((claim) => claim.value),
    ).toEqual(['Tadlock Joinery']));
});

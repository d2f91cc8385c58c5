import { plainDomain, safeHref } from './links';

it.each([
  'javascript:alert(1)',
  'JaVaScRiPt:alert(1)',
  'data:text/html,x',
  'vbscript:x',
  'file:///etc/passwd',
  'x',
  '',
])('%s is no link', (text) => expect(safeHref(text)).toBeUndefined());
it.each(['https://firm.example/a?b=c', 'mailto:a@b.example', 'tel:+351910555014'])('%s is one', (text) =>
  expect(safeHref(text)).toBe(text),
);
it('a domain in letters that look like others is named in the form in which it is registered', () => {
  // The registered forms are those of Python's IDNA codec (RFC 3490), which is not what the code uses.
  expect(plainDomain('https://аpple.example/')).toBe('xn--pple-43d.example');
  expect(plainDomain('ines@padariasól.example')).toBe('xn--padariasl-d7a.example');
  expect(plainDomain('https://firm.example/')).toBeNull();
  expect(plainDomain('ines@firm.example')).toBeNull();
});

import { asHref } from './richText';

it.each([
  ['wharfside.example/offer', 'https://wharfside.example/offer'],
  ['http://wharfside.example', 'http://wharfside.example'],
  ['ana@padaria.example', 'mailto:ana@padaria.example'],
  ['tel:+447700900123', 'tel:+447700900123'],
  ['javascript:alert(1)', 'https://javascript:alert(1)'],
])('“%s” leads to %s', (typed, href) => {
  expect(asHref(typed)).toBe(href);
});

import { followsOf, isByPerson } from './tracking';

const rules = { opens: true, clicks: true, offCountries: ['PT', 'DE'] };

it.each([
  [rules, 'US', null, 'both'],
  [rules, 'PT', null, 'nothing'],
  [rules, 'PT', 'unconfirmed', 'nothing'],
  [rules, 'PT', 'agreed', 'both'],
  [rules, 'US', 'withdrawn', 'nothing'],
  [{ ...rules, opens: false }, 'US', null, 'clicks'],
  [{ ...rules, clicks: false }, 'DE', 'agreed', 'opens'],
  [{ ...rules, opens: false, clicks: false }, 'US', 'agreed', 'nothing'],
] as const)('with %j in %s, having %s, %s is recorded', (given, country, wish, follows) => {
  expect(followsOf(given, country, wish)).toBe(follows);
});

const BROWSER =
  'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/130.0 Safari/537.36';
it.each([
  ['a browser', { userAgent: BROWSER }, true],
  [
    'a mail program',
    { userAgent: 'Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Thunderbird/128.0' },
    true,
  ],
  ['at once', { userAgent: BROWSER, seconds: 2 }, false],
  ['a look at the head', { userAgent: BROWSER, method: 'HEAD' }, false],
  [
    'a picture cache',
    { userAgent: 'Mozilla/5.0 (Windows NT 5.1) Firefox/11.0 (via ggpht.com SomeImageProxy)' },
    false,
  ],
  ['a cache that tells nothing', { userAgent: 'Mozilla/5.0' }, false],
  ['nobody', { userAgent: '' }, false],
  ['a scanner', { userAgent: 'LinkScanner/2.1' }, false],
  ['a browser that fetches ahead', { userAgent: BROWSER, purpose: 'prefetch;prerender' }, false],
])('%s', (_name, given, isOne) => {
  expect(isByPerson({ method: 'GET', purpose: '', seconds: 600, ...given })).toBe(isOne);
});

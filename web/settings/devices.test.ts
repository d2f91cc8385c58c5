import { deviceOf } from './devices';

// Shapes of user agents as browsers send them; the numbers are made up.
it.each([
  [
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0 Safari/537.36',
    'Chrome on Linux',
  ],
  [
    'Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 Chrome/141.0 Safari/537.36 Edg/141.0',
    'Edge on Windows',
  ],
  [
    'Mozilla/5.0 (Macintosh; Intel Mac OS X 10.15; rv:143.0) Gecko/20100101 Firefox/143.0',
    'Firefox on macOS',
  ],
  [
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1 Version/18.0 Safari/604.1',
    'Safari on iOS',
  ],
  ['curl/8.5.0', 'curl'],
  ['', 'Unknown device'],
])('%s', (said, words) => expect(deviceOf(said)).toBe(words));

import { listHeaders, tokenOfSubject } from './listHeaders';

const TOKEN = 'A'.repeat(44);

it('names the page first, then the mailbox, as RFC 2369 and RFC 8058 write them', () => {
  expect(listHeaders(`https://house.example/u/${TOKEN}`, 'pell@wharfside.example', TOKEN)).toEqual({
    'List-Unsubscribe': `<https://house.example/u/${TOKEN}>, <mailto:pell@wharfside.example?subject=unsubscribe%20${TOKEN}>`,
    'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
  });
  expect(listHeaders('https://house.example/u/x', null, 'x')['List-Unsubscribe']).toBe(
    '<https://house.example/u/x>',
  );
});

it.each([
  ['https://house.example/\r\nBcc: all@else.example', null, 'x'],
  ['https://house.example/', 'a@b.example>, <https://else.example', 'x'],
  ['https://house.example/', null, 'x>\n'],
])('lets nothing begin a field of its own: %j', (page, mailbox, token) => {
  expect(() => listHeaders(page, mailbox, token)).toThrow('cannot stand in a header');
});

it('reads the token back from the subject a mail program writes', () => {
  expect(tokenOfSubject(`unsubscribe ${TOKEN}`)).toBe(TOKEN);
  expect(tokenOfSubject(` Unsubscribe  ${TOKEN} `)).toBe(TOKEN);
  expect(tokenOfSubject(`Re: unsubscribe ${TOKEN}`)).toBeNull();
  expect(tokenOfSubject('unsubscribe')).toBeNull();
});

import { readRecipients } from './recipients';

const read = (head: string) => readRecipients(new TextEncoder().encode(`${head}\r\n\r\nHello\r\n`));

it('keeps copies apart, and where answers are to go', async () => {
  expect(
    await read(
      'From: a@x.example\r\nReply-To: Desk <desk@x.example>\r\nTo: Pell <pell@w.example>,\r\n rui@y.example\r\nCc: "Leça, Ana" <ana@y.example>',
    ),
  ).toEqual({
    replyTo: [{ name: 'Desk', address: 'desk@x.example' }],
    to: [
      { name: 'Pell', address: 'pell@w.example' },
      { name: '', address: 'rui@y.example' },
    ],
    cc: [{ name: 'Leça, Ana', address: 'ana@y.example' }],
  });
});

it('RFC 5322, A.1.3: takes groups apart, and an empty one holds nobody', async () => {
  const { to, cc } = await read(
    'From: Pete <pete@silly.example>\r\nTo: A Group:Ed Jones <c@a.test>,joe@where.test,John <jdoe@one.test>;\r\nCc: Undisclosed recipients:;',
  );
  expect([to.map(({ address }) => address), cc]).toEqual([
    ['c@a.test', 'joe@where.test', 'jdoe@one.test'],
    [],
  ]);
});

it('reads of very many the first, and nothing of what is no message', async () => {
  const many = Array.from({ length: 500 }, (_, at) => `p${at}@x.example`).join(', ');
  expect((await read(`To: ${many}`)).to).toHaveLength(100);
  expect(await readRecipients(new Uint8Array())).toEqual({ replyTo: [], to: [], cc: [] });
});

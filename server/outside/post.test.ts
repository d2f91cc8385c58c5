import { createServer, type Server } from 'node:net';
import { NotSent } from './notSent';
import { openPost } from './post';

type Script = (command: string) => string | 'cut';
const servers: Server[] = [];
afterAll(() => servers.forEach((server) => server.close()));

/** An SMTP server (RFC 5321) that answers each command as told; `cut` closes the connection. */
async function listen(answer: Script, greeting = '220 here'): Promise<{ address: string; seen: string[] }> {
  const seen: string[] = [];
  const server = createServer((socket) => {
    let isBody = false;
    socket.on('error', () => undefined);
    socket.write(`${greeting}\r\n`);
    socket.on('data', (data) => {
      const text = data.toString();
      if (isBody && !text.endsWith('\r\n.\r\n')) return void seen.push(text);
      const command = isBody ? '.' : text.trim();
      seen.push(isBody ? text : command);
      const said = answer(command);
      isBody = command === 'DATA' && said.startsWith('354');
      if (said === 'cut') socket.destroy();
      else socket.write(`${said}\r\n`);
    });
  });
  servers.push(server);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const at = server.address();
  return { address: `127.0.0.1:${typeof at === 'object' && at ? at.port : 0}`, seen };
}

const well: Script = (command) =>
  command === 'DATA' ? '354 go on' : command === 'QUIT' ? '221 bye' : '250 ok';
const post = async (address: string): Promise<unknown> =>
  openPost(address, 'Emporikon <house@wharfside.example>')
    .send({ id: 'row-1', to: 'uma@reed.example', subject: 'Hello', text: 'Words' })
    .catch((error: unknown) => error);

it('hands a mail over with a Message-ID that stays the same for the same mail', async () => {
  const server = await listen(well);
  expect(await post(server.address)).toBeUndefined();
  expect(server.seen.join('\n')).toMatch(/^Message-ID: <row-1@wharfside\.example>/m);
});

it('tells a refusal for now from one for good', async () => {
  const later = await post((await listen((c) => (c.startsWith('RCPT') ? '450 busy' : well(c)))).address);
  const never = await post((await listen((c) => (c.startsWith('RCPT') ? '550 nobody' : well(c)))).address);
  const full = await post((await listen((c) => (c === '.' ? '452 full' : well(c)))).address);
  expect([later, never, full]).toEqual([expect.any(NotSent), expect.any(NotSent), expect.any(NotSent)]);
  expect([later, never, full].map((error) => (error as NotSent).isFinal)).toEqual([false, true, false]);
});

it('knows that nothing went out where the connection broke before the message', async () => {
  const nobody = await listen(well);
  servers.pop()?.close();
  const cut = await listen((command) => (command.startsWith('MAIL') ? 'cut' : well(command)));
  for (const address of [nobody.address, cut.address]) expect(await post(address)).toBeInstanceOf(NotSent);
});

it('does not claim to know where the connection broke after it', async () => {
  const { address } = await listen((command) => (command === '.' ? 'cut' : well(command)));
  const error = await post(address);
  expect(error).toBeInstanceOf(Error);
  expect(error).not.toBeInstanceOf(NotSent);
});

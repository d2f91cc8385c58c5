import { createServer } from 'node:net';
import { openImap } from './imap';
import { findAddress, isPublicAddress } from './door';

const account = { host: 'mail.firm.example', port: 143, secure: false, username: 'pell', password: 'secret' };
const door = (address: string, allowed: string[] = []) => ({ allowed, resolve: async () => [address] });

describe('the one door out', () => {
  it.each([
    '127.0.0.1',
    '10.0.0.5',
    '169.254.169.254',
    '::1',
    '::127.0.0.1',
    '::ffff:10.0.0.1',
    'fc00::1',
    '100.64.0.1',
  ])('%s is not on the open internet', async (address) => {
    expect(isPublicAddress(address)).toBe(false);
    expect(await findAddress('mail.firm.example', 993, door(address))).toBeNull();
    expect(await findAddress('mail.firm.example', 993, door(address, ['mail.firm.example:993']))).toBe(
      address,
    );
  });

  it('says the same of a server that is not there and of one inside a network', async () => {
    const inside = await openImap(account, door('10.0.0.5')).catch((error: Error) => error.message);
    const nowhere = await openImap(account, {
      allowed: [],
      resolve: () => Promise.reject(new Error('ENOTFOUND')),
    }).catch((error: Error) => error.message);
    expect(inside).toBe(nowhere);
  });

  it('hands no password to a server that offers no TLS, unless it is on this machine', async () => {
    const heard: string[] = [];
    const server = createServer((socket) => {
      socket.write('* OK IMAP4rev1 ready\r\n');
      socket.on('data', (chunk) => {
        const line = String(chunk);
        heard.push(line);
        const tag = line.split(' ')[0] ?? '';
        if (/CAPABILITY/i.test(line)) socket.write(`* CAPABILITY IMAP4rev1\r\n${tag} OK done\r\n`);
        else socket.write(`${tag} NO\r\n`);
      });
      socket.on('error', () => undefined);
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.2', done));
    const address = server.address();
    const port = typeof address === 'object' && address ? address.port : 0;
    // An address of this machine under a name that is not loopback's: the door says where it leads, the network it crosses is told by the address.
    jest.spyOn(await import('./door'), 'isLoopback').mockReturnValue(false);
    await expect(
      openImap(
        { ...account, port },
        { allowed: [`mail.firm.example:${port}`], resolve: async () => ['127.0.0.2'] },
      ),
    ).rejects.toThrow(/cannot be reached/);
    expect(heard.join('')).not.toContain('secret');
    jest.restoreAllMocks();
    await new Promise((done) => server.close(done));
  }, 60_000);
});

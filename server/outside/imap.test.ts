import { openImap, tlsRule } from './imap';
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

  it('has a server outside this machine change to TLS before anybody signs in', () => {
    expect(tlsRule(false, '93.184.216.34')).toEqual({ doSTARTTLS: true });
    expect(tlsRule(false, '10.0.0.5')).toEqual({ doSTARTTLS: true });
    expect(tlsRule(true, '93.184.216.34')).toEqual({});
    expect(tlsRule(false, '127.0.0.1')).toEqual({});
  });
});

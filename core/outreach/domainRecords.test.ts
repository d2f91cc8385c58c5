import { checkDkim, checkDmarc, checkSpf } from './domainRecords';

describe('SPF', () => {
  const check = (...texts: string[]) => checkSpf('w.example', texts, null);

  it('is right where one record says what of all other servers', () => {
    expect(check('v=spf1 mx -all', 'google-site=x')).toMatchObject({ state: 'right', wanted: '' });
    expect(check('V=SPF1 include:mx.example ~all')).toMatchObject({ state: 'right' });
    expect(check('v=spf1 redirect=_spf.example.com')).toMatchObject({ state: 'right' });
  });

  it('RFC 7208, 4.5: other versions are no record, and more than one is an error', () => {
    expect(check('v=spf10 mx -all', 'v=spf')).toMatchObject({ state: 'missing', wanted: 'v=spf1 mx -all' });
    expect(check('v=spf1 mx -all', 'v=spf1 a -all')).toMatchObject({ state: 'wrong' });
  });

  it('says what to write where everybody may send, or nothing is said of others', () => {
    expect(check('v=spf1 +all')).toMatchObject({ state: 'wrong', wanted: 'v=spf1 -all' });
    expect(check('v=spf1 mx all')).toMatchObject({ state: 'wrong', wanted: 'v=spf1 mx -all' });
    expect(check('v=spf1 mx')).toMatchObject({ state: 'wrong', wanted: 'v=spf1 mx -all' });
    expect(checkSpf('w.example', [], 'mx.example')).toMatchObject({
      wanted: 'v=spf1 include:mx.example -all',
    });
    expect(checkSpf('w.example', null, null).state).toBe('unknown');
  });
});

describe('DKIM', () => {
  const key = { selector: 'brisbane', publicKey: 'MIGfMA0GCSqGSIb3' };
  const check = (...texts: string[]) => checkDkim('w.example', texts, key);

  it('RFC 6376, 3.6.2.1: the key is found below its selector; white space within it says nothing', () => {
    expect(check('v=DKIM1; p=MIGfMA0G CSqGSIb3')).toMatchObject({
      state: 'right',
      host: 'brisbane._domainkey.w.example',
    });
    expect(check('k=rsa;p=MIGfMA0GCSqGSIb3').state).toBe('right');
  });

  it('tells another key, one that was withdrawn (an empty p=), and none', () => {
    expect(check('v=DKIM1; p=other').state).toBe('wrong');
    expect(check('v=DKIM1; p=')).toMatchObject({ state: 'wrong', why: 'The key there was withdrawn.' });
    expect(check('nothing')).toMatchObject({
      state: 'missing',
      wanted: 'v=DKIM1; k=rsa; p=MIGfMA0GCSqGSIb3',
    });
    expect(checkDkim('w.example', null, key).state).toBe('unknown');
    expect(checkDkim('w.example', [], null)).toMatchObject({ state: 'missing', wanted: '' });
  });
});

describe('DMARC', () => {
  const check = (...texts: string[]) => checkDmarc('w.example', texts);

  it('RFC 7489, 6.3: wants a policy, and the version first', () => {
    expect(check('v=DMARC1; p=reject; rua=mailto:x@w.example').state).toBe('right');
    expect(check('v=DMARC1;p=none')).toMatchObject({
      state: 'right',
      why: expect.stringMatching(/reports only/),
    });
    expect(check('p=reject; v=DMARC1').state).toBe('missing');
    expect(check('v=DMARC1; rua=mailto:x@w.example').state).toBe('wrong');
    expect(check('v=DMARC1; p=maybe').state).toBe('wrong');
    expect(check('v=DMARC1; p=none', 'v=DMARC1; p=reject').state).toBe('wrong');
    expect(check()).toMatchObject({ state: 'missing', host: '_dmarc.w.example' });
    expect(checkDmarc('w.example', null).state).toBe('unknown');
  });
});

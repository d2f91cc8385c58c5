/** What the name servers have to say of a domain, for mail of ours from it to be believed. */
export interface DomainRecord {
  kind: 'SPF' | 'DKIM' | 'DMARC';
  /** Where the TXT record stands. */
  host: string;
  state: 'right' | 'missing' | 'wrong' | 'unknown';
  found: string[];
  /** What to write there; empty where it is right. */
  wanted: string;
  why: string;
}

/** TXT records as a resolver gives them; null where it did not answer. */
export type Texts = readonly string[] | null;

const unknown = (kind: DomainRecord['kind'], host: string): DomainRecord => ({
  ...{ kind, host, found: [], wanted: '' },
  state: 'unknown',
  why: 'The name servers did not answer. Check again in a moment.',
});

const tagsOf = (text: string): Map<string, string> =>
  new Map(
    text.split(';').flatMap((part) => {
      const [, name, value] = /^\s*([a-z]+)\s*=\s*([\s\S]*?)\s*$/i.exec(part) ?? [];
      return name ? [[name.toLowerCase(), (value ?? '').replace(/\s+/g, '')] as const] : [];
    }),
  );

/** SPF (RFC 7208): one record, which ends in saying what of all other servers. It is not followed into the records that it includes. */
export function checkSpf(domain: string, texts: Texts, sendsFrom: string | null): DomainRecord {
  const base = { kind: 'SPF' as const, host: domain };
  if (texts === null) return unknown('SPF', domain);
  const found = texts.filter((text) => /^v=spf1(?: |$)/i.test(text));
  const sender = sendsFrom ? `include:${sendsFrom}` : 'mx';
  const wanted = `v=spf1 ${sender} -all`;
  const [text] = found;
  if (!text)
    return {
      ...base,
      found,
      wanted,
      state: 'missing',
      why: 'Nothing says which servers may send for this domain.',
    };
  // RFC 7208, 4.5: more than one is an error for whoever checks.
  if (found.length > 1)
    return {
      ...base,
      found,
      wanted: text,
      state: 'wrong',
      why: 'There is more than one; keep a single one.',
    };
  const last = /\s([-~?+]?)all\s*$/i.exec(text)?.[1];
  if (last === undefined && !/\sredirect=/i.test(text))
    return {
      ...base,
      found,
      wanted: `${text} -all`,
      state: 'wrong',
      why: 'It does not say what of other servers.',
    };
  if (last === '' || last === '+')
    return {
      ...{ ...base, found, wanted: text.replace(/\+?all\s*$/i, '-all'), state: 'wrong' },
      why: 'It lets every server send for this domain.',
    };
  return {
    ...base,
    found,
    wanted: '',
    state: 'right',
    why: 'It says which servers may send for this domain.',
  };
}

/**
 * DKIM (RFC 6376, 3.6.1): the public half of the key that mail is signed with.
 * @param key its name and public half, base64; null where mail is not signed
 */
export function checkDkim(
  domain: string,
  texts: Texts,
  key: { selector: string; publicKey: string } | null,
): DomainRecord {
  const host = `${key?.selector ?? 'letters'}._domainkey.${domain}`;
  if (!key)
    return {
      ...{ kind: 'DKIM', host, found: [], wanted: '', state: 'missing' },
      why: 'Mail of this domain is not signed. Make a key, and publish what is shown then.',
    };
  if (texts === null) return unknown('DKIM', host);
  const wanted = `v=DKIM1; k=rsa; p=${key.publicKey}`;
  const found = texts.filter((text) => tagsOf(text).has('p'));
  const base = { kind: 'DKIM' as const, host, found };
  const [text] = found;
  if (!text)
    return {
      ...base,
      wanted,
      state: 'missing',
      why: 'Mail is signed, but nobody can check it without this record.',
    };
  const published = tagsOf(text).get('p');
  if (published === '') return { ...base, wanted, state: 'wrong', why: 'The key there was withdrawn.' };
  if (published !== key.publicKey)
    return {
      ...base,
      wanted,
      state: 'wrong',
      why: 'Another key stands there than the one mail is signed with.',
    };
  return { ...base, wanted: '', state: 'right', why: 'Signatures of our mail can be checked.' };
}

/** DMARC (RFC 7489, 6.3): what others do with mail in our name that is not from us. */
export function checkDmarc(domain: string, texts: Texts): DomainRecord {
  const host = `_dmarc.${domain}`;
  if (texts === null) return unknown('DMARC', host);
  const found = texts.filter((text) => /^v=DMARC1\s*(?:;|$)/i.test(text));
  const base = { kind: 'DMARC' as const, host, found };
  const wanted = `v=DMARC1; p=quarantine; rua=mailto:postmaster@${domain}`;
  const [text] = found;
  if (!text)
    return {
      ...base,
      wanted,
      state: 'missing',
      why: 'Nothing says what to do with forged mail in your name.',
    };
  if (found.length > 1)
    return { ...base, wanted: text, state: 'wrong', why: 'There is more than one; keep a single one.' };
  const policy = tagsOf(text).get('p')?.toLowerCase();
  if (!policy || !['none', 'quarantine', 'reject'].includes(policy))
    return { ...base, wanted, state: 'wrong', why: 'It names no policy (p=).' };
  return {
    ...{ ...base, wanted: '', state: 'right' },
    why:
      policy === 'none'
        ? 'It asks for reports only; forged mail in your name is still delivered.'
        : 'Forged mail in your name is held back.',
  };
}

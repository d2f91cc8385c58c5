/** What the clipper keeps in the browser: where the program is, the token, and what waits to be sent. */
export interface Account {
  server: string;
  token: string;
}

/** A page that was clipped while the program was down, with what was decided about it. */
export interface Kept {
  /** Also the Idempotency-Key, so that sending it twice files it once. */
  id: string;
  url: string;
  title: string;
  html: string;
  /** The body of the filing; null when the page is only to be captured. */
  filing: Record<string, unknown> | null;
  at: string;
  /** Why the program refused it, in words; such a page waits for a person. */
  problem?: string;
}

export const DEFAULT_SERVER = 'http://127.0.0.1:4600';

export async function account(): Promise<Account | null> {
  const { server, token } = await chrome.storage.local.get(['server', 'token']);
  return typeof token === 'string' && token
    ? { server: typeof server === 'string' && server ? server : DEFAULT_SERVER, token }
    : null;
}

export async function kept(): Promise<Kept[]> {
  const { waiting } = await chrome.storage.local.get('waiting');
  return Array.isArray(waiting) ? (waiting as Kept[]) : [];
}

export const keep = async (one: Kept): Promise<void> =>
  chrome.storage.local.set({ waiting: [...(await kept()).filter((other) => other.id !== one.id), one] });

export const forget = async (id: string): Promise<void> =>
  chrome.storage.local.set({ waiting: (await kept()).filter((one) => one.id !== id) });

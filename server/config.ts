import { CLIPPER_ORIGIN } from '@emporikon/contract/clipper';
import type { OpenIdSettings } from './outside/openId';

export interface Config {
  databaseUrl: string;
  host: string;
  port: number;
  /** SMTP port on which mail comes in; 0 turns it off. */
  mailPort: number;
  ours: string[];
  currency: string;
  country: string;
  publicUrl: string;
  /** Servers on private addresses that may be reached for somebody: `host:port`, or `host:*`. */
  fetchAllowed: string[];
  exchangeUrl: string | null;
  exchangeSecret: string | null;
  /** SMTP server that takes our mail, `host:port`. */
  postServer: string | null;
  mailFrom: string;
  sealKey: string | null;
  /** A provider of sign-in (OpenID Connect), where one is set up. */
  openId: OpenIdSettings | null;
  /** Pictures of the map, and whose they are. */
  mapTiles: { url: string; words: string } | null;
  /** Address of a geocoder that answers in GeoJSON, with `{address}` and `{country}`. */
  geocoderUrl: string | null;
  /** ClamAV daemon that scans files, `host:port`. */
  scanner: string | null;
  /** Where each look-up source is, and the key it knows us by; those without an address are not asked. */
  lookUps: Record<'register' | 'finder' | 'directory', { url: string | null; key: string }>;
  /** The one browser extension that may call: its origin. */
  clipperOrigin: string;
  /** Whom to believe about the address and scheme of a request: `true`, a number of hops, or addresses, as Fastify takes them. */
  trustProxy: boolean | number | string;
  /** Folder of the log files; null writes none. */
  logFolder: string | null;
  logToStdout: boolean;
  /** Folder of the built interface; null serves the API alone. */
  webRoot: string | null;
}

const number = (text: string | undefined, otherwise: number): number =>
  text === undefined || text === '' || Number.isNaN(Number(text)) ? otherwise : Number(text);

const words = (text: string | undefined): string[] =>
  (text ?? '')
    .toLowerCase()
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

const trust = (text = ''): Config['trustProxy'] =>
  text === '' || text === 'false'
    ? false
    : text === 'true'
      ? true
      : Number.isInteger(Number(text))
        ? Number(text)
        : text;

const openIdOf = (env: NodeJS.ProcessEnv): OpenIdSettings | null =>
  env.OIDC_ISSUER && env.OIDC_CLIENT_ID && env.OIDC_CLIENT_SECRET
    ? {
        issuer: env.OIDC_ISSUER,
        clientId: env.OIDC_CLIENT_ID,
        clientSecret: env.OIDC_CLIENT_SECRET,
        name: env.OIDC_NAME || new URL(env.OIDC_ISSUER).hostname,
      }
    : null;

/** Settings from the environment. @throws when DATABASE_URL is missing */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  if (!env.DATABASE_URL)
    throw new Error(
      'DATABASE_URL is not set: which PostgreSQL should hold the records? `npm start` sets it by itself.',
    );
  return {
    databaseUrl: env.DATABASE_URL,
    host: env.HOST ?? '127.0.0.1',
    port: number(env.PORT, 4600),
    mailPort: number(env.MAIL_PORT, 0),
    ours: words(env.EMPORIKON_OURS),
    currency: env.EMPORIKON_CURRENCY ?? 'EUR',
    country: env.EMPORIKON_COUNTRY ?? 'GB',
    publicUrl: (env.PUBLIC_URL ?? `http://127.0.0.1:${number(env.PORT, 4600)}`).replace(/\/+$/, ''),
    fetchAllowed: words(env.FETCH_ALLOWED),
    exchangeUrl: env.EXCHANGE_URL ?? null,
    exchangeSecret: env.EXCHANGE_SECRET ?? null,
    postServer: env.POST_SERVER ?? null,
    mailFrom: env.MAIL_FROM ?? 'hello@wharfside.example',
    mapTiles: env.MAP_TILES ? { url: env.MAP_TILES, words: env.MAP_TILES_WORDS ?? '' } : null,
    geocoderUrl: env.GEOCODER_URL || null,
    scanner: env.CLAMD || null,
    sealKey: env.EMPORIKON_SECRET ?? null,
    openId: openIdOf(env),
    lookUps: {
      register: { url: env.REGISTER_URL ?? null, key: env.REGISTER_KEY ?? '' },
      finder: { url: env.FINDER_URL ?? null, key: env.FINDER_KEY ?? '' },
      directory: { url: env.DIRECTORY_URL ?? null, key: env.DIRECTORY_KEY ?? '' },
    },
    clipperOrigin: env.CLIPPER_ORIGIN ?? CLIPPER_ORIGIN,
    trustProxy: trust(env.TRUST_PROXY),
    logFolder: env.LOG_FOLDER ?? null,
    logToStdout: words(env.LOG).includes('stdout'),
    webRoot: env.WEB_ROOT ?? null,
  };
}

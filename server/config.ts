export interface Config {
  databaseUrl: string;
  host: string;
  port: number;
  /** SMTP port on which mail comes in; 0 turns it off. */
  mailPort: number;
  ours: string[];
  currency: string;
  /** Folder of the built interface; null serves the API alone. */
  webRoot: string | null;
}

const number = (text: string | undefined, otherwise: number): number =>
  text === undefined || text === '' || Number.isNaN(Number(text)) ? otherwise : Number(text);

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
    ours: (env.EMPORIKON_OURS ?? '')
      .toLowerCase()
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean),
    currency: env.EMPORIKON_CURRENCY ?? 'EUR',
    webRoot: env.WEB_ROOT ?? null,
  };
}

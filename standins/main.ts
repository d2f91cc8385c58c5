import { openDaybook } from './daybook/site';
import { openExchange } from './exchange/switch';
import { openLookUpSources } from './look-ups/sources';
import { openPostOffice } from './post-office/office';
import { openOutbox } from './post-office/outbox';
import { openRollcall } from './rollcall/site';
import { openShopWindow } from './shop-window/site';

const HOST = '127.0.0.1';

function setting(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set.`);
  return value;
}

async function start(): Promise<void> {
  const app = setting('PUBLIC_URL');
  const outbox = await openOutbox(HOST, Number(setting('OUTBOX_PORT')), Number(setting('POST_PORT')));
  const open = [
    await openPostOffice({
      host: HOST,
      port: Number(setting('POST_PORT')),
      relayPort: Number(setting('MAIL_PORT')),
      ours: setting('EMPORIKON_OURS').split(','),
      outbox,
    }),
    await openRollcall(HOST, Number(setting('ROLLCALL_PORT'))),
    await openExchange({
      host: HOST,
      port: Number(setting('EXCHANGE_PORT')),
      hook: `${app}/api/exchange/events`,
      secret: setting('EXCHANGE_SECRET'),
    }),
    await openShopWindow(HOST, Number(setting('SHOP_PORT')), app),
    await openLookUpSources(HOST, Number(setting('LOOKUPS_PORT'))),
    await openDaybook(HOST, Number(setting('CALENDAR_PORT')), setting('CALENDAR_FOLDER')),
    outbox,
  ];
  process.stdout.write(`post office open on ${open[0]?.port ?? ''}\n`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => void Promise.all(open.map((one) => one.stop())).then(() => process.exit(0)));
}

start().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});

import { openPostOffice } from './post-office/office';

async function start(): Promise<void> {
  const { MAIL_PORT, POST_PORT } = process.env;
  if (!MAIL_PORT || !POST_PORT) throw new Error('MAIL_PORT and POST_PORT are not set.');
  const office = await openPostOffice({
    host: '127.0.0.1',
    port: Number(POST_PORT),
    relayPort: Number(MAIL_PORT),
  });
  process.stdout.write(`post office open on ${office.port}\n`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => void office.stop().then(() => process.exit(0)));
}

start().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});

import { MAX_MESSAGE_BYTES } from '@emporikon/core/reading/types';
import { SMTPServer } from 'smtp-server';
import { readMail } from '../captures/arrivals';
import { storeCapture } from '../captures/store';
import { runInTransaction, type Tools } from '../commands/context';
import { takeInvitationAnswer } from '../meetings/answers';
import { takeUnsubscribing } from '../consent/stops';
import { takeReport } from '../letters/reports';
import { takeTaskReply } from '../tasks/replies';

/** Where mail comes in. A real mail server relays to it as the post office stand-in does. */
export interface MailIntake {
  port: number;
  stop(): Promise<void>;
}

/** Reads a message and keeps it. One of which there is nothing to keep is refused for good, everything else by trying again. */
async function takeMail(tools: Tools, raw: Buffer): Promise<void> {
  const arrival = await readMail(tools, null, raw);
  if (await takeTaskReply(tools, arrival)) return;
  if (await takeInvitationAnswer(tools, arrival)) return;
  if (await takeReport(tools, arrival)) return;
  if (await takeUnsubscribing(tools, arrival)) return;
  await runInTransaction(tools, null, (context) => storeCapture(context, arrival, { by: 'post' }));
}

/**
 * Takes mail by SMTP and captures it. A message is answered with 250 only after its capture is committed, so that the
 * sender keeps what we did not.
 */
export function openMailIntake(
  tools: Tools,
  host: string,
  port: number,
  onError: (error: Error) => void,
): Promise<MailIntake> {
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: MAX_MESSAGE_BYTES,
    banner: 'Emporikon mail intake',
    disableReverseLookup: true,
    onData(stream, _session, done) {
      const chunks: Buffer[] = [];
      let size = 0;
      stream.on('data', (chunk: Buffer) => {
        size += chunk.length;
        if (size <= MAX_MESSAGE_BYTES) chunks.push(chunk);
      });
      stream.on('end', () => {
        if (size > MAX_MESSAGE_BYTES) {
          done(
            Object.assign(new Error(`Larger than ${MAX_MESSAGE_BYTES / 1024 / 1024} MB; not kept`), {
              responseCode: 552,
            }),
          );
          return;
        }
        takeMail(tools, Buffer.concat(chunks)).then(
          () => done(),
          (error: Error) => {
            onError(error);
            done(Object.assign(new Error('Not kept, try again later'), { responseCode: 451 }));
          },
        );
      });
    },
  });
  server.on('error', onError);
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      server.off('error', reject);
      const address = server.server.address();
      resolve({
        port: typeof address === 'object' && address ? address.port : port,
        stop: () => new Promise((stopped) => server.close(() => stopped())),
      });
    });
  });
}

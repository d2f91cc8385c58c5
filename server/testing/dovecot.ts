import { spawn, type ChildProcess } from 'node:child_process';
import {
  chmodSync,
  chownSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createConnection } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { freePort } from './port';

export interface Dovecot {
  port: number;
  /** Puts a message into a folder; INBOX when none is named. */
  deliver(message: string, folder?: string): void;
  /** Throws the folders away, so that they get another UIDVALIDITY. */
  renumber(): void;
  stop(): Promise<void>;
}

export const IMAP_USER = 'pell';
export const IMAP_PASSWORD = 'letters-and-more-letters';

const uidOf = (name: string): number | null => {
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((one) => one.startsWith(`${name}:`));
  return line ? Number(line.split(':')[2]) : null;
};

const config = (folder: string, port: number, user: string, group: string): string => `
base_dir = ${folder}/run
state_dir = ${folder}/state
log_path = ${folder}/log
protocols = imap
listen = 127.0.0.1
ssl = no
disable_plaintext_auth = no
default_internal_user = ${user}
default_login_user = ${user}
default_internal_group = ${group}
mail_location = maildir:${folder}/mail
mail_uid = ${user}
mail_gid = ${group}
first_valid_uid = 1
passdb {
  driver = static
  args = password=${IMAP_PASSWORD}
}
userdb {
  driver = static
  args = uid=${user} gid=${group} home=${folder}/mail
}
service imap-login {
  chroot =
  inet_listener imap {
    port = ${port}
  }
  inet_listener imaps {
    port = 0
  }
}
service anvil {
  chroot =
}
service stats {
  chroot =
}
namespace inbox {
  inbox = yes
  separator = /
  mailbox Sent {
    auto = subscribe
    special_use = \\Sent
  }
}
`;

/** Debian's dovecot as the peer at the other end of IMAP, with a mailbox of its own in a temporary folder. */
export async function startDovecot(onPort?: number): Promise<Dovecot> {
  const folder = mkdtempSync(join(tmpdir(), 'dovecot-'));
  const port = onPort ?? (await freePort());
  const isRoot = process.getuid?.() === 0;
  const user = isRoot ? 'nobody' : userInfo().username;
  const group = isRoot ? 'nogroup' : String(userInfo().gid);
  const uid = isRoot ? uidOf('nobody') : null;
  const own = (path: string): void => (uid === null ? undefined : chownSync(path, uid, uid));
  chmodSync(folder, 0o755);
  const mail = join(folder, 'mail');
  for (const path of [
    mail,
    ...['cur', 'new', 'tmp'].map((one) => join(mail, one)),
    join(mail, '.Sent'),
    ...['cur', 'new', 'tmp'].map((one) => join(mail, '.Sent', one)),
  ]) {
    mkdirSync(path, { recursive: true });
    own(path);
  }
  writeFileSync(join(folder, 'dovecot.conf'), config(folder, port, user, group));
  const child: ChildProcess = spawn('/usr/sbin/dovecot', ['-F', '-c', join(folder, 'dovecot.conf')], {
    stdio: 'ignore',
  });
  for (let tries = 0; !(await answers(port)); tries++) {
    if (tries > 100)
      throw new Error(
        `dovecot does not answer: ${existsSync(join(folder, 'log')) ? readFileSync(join(folder, 'log'), 'utf8') : 'no log'}`,
      );
    await new Promise((done) => setTimeout(done, 50));
  }
  let serial = 0;
  return {
    port,
    deliver(message, into = 'INBOX') {
      const path = join(mail, into === 'INBOX' ? 'new' : `.${into}/new`, `${Date.now()}.${++serial}.test`);
      writeFileSync(path, message);
      own(path);
    },
    renumber() {
      for (const path of [mail, join(mail, '.Sent')])
        for (const name of [
          'dovecot-uidlist',
          'dovecot.index',
          'dovecot.index.log',
          'dovecot.index.cache',
          'dovecot-uidvalidity',
        ])
          rmSync(join(path, name), { force: true });
    },
    stop: () =>
      new Promise((done) => {
        child.once('exit', () => {
          rmSync(folder, { recursive: true, force: true });
          done();
        });
        child.kill('SIGTERM');
      }),
  };
}

const answers = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = createConnection({ host: '127.0.0.1', port });
    socket.once('data', () => resolve(socket.destroy() && true));
    socket.once('error', () => resolve(false));
  });

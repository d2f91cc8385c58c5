import { connect } from 'node:net';

/** What a scanner says of some bytes: null where it found nothing, else what it found. */
export interface Scanner {
  /** @throws when it cannot be reached, or answers nothing that can be understood */
  scan: (bytes: Uint8Array) => Promise<string | null>;
}

const WAITS_MS = 60_000;
const PIECE_BYTES = 1024 * 1024;
const MOST_ANSWER = 4096;

const sizeOf = (piece: Uint8Array): Buffer => {
  const size = Buffer.alloc(4);
  size.writeUInt32BE(piece.length);
  return size;
};

/** The answer to INSTREAM: `stream: OK`, or `stream: NAME FOUND`; anything else is trouble. */
function readAnswer(answer: string): string | null {
  const text = answer.replace(/\0.*$/s, '').trim();
  if (/^stream: OK$/.test(text)) return null;
  const found = /^stream: (.+) FOUND$/.exec(text)?.[1];
  if (found) return found;
  throw new Error(`the scanner answered: ${text.slice(0, 200) || 'nothing'}`);
}

/**
 * A ClamAV daemon, asked by its own protocol (clamd(8), INSTREAM: pieces with their length as four bytes, most
 * significant first, ended by a length of nothing).
 * @param server `host:port`
 */
export function openScanner(server: string): Scanner {
  const [, host = '', port = ''] = /^\[?([^\]]+)\]?:(\d+)$/.exec(server) ?? [];
  if (!host) throw new Error(`CLAMD is not a server and port such as 127.0.0.1:3310: ${server}`);
  return {
    scan: (bytes) =>
      new Promise((resolve, reject) => {
        const socket = connect({ host, port: Number(port) });
        let answer = '';
        socket.setTimeout(WAITS_MS, () => socket.destroy(new Error('the scanner does not answer')));
        socket.on('data', (data) => {
          answer += data.toString('latin1');
          if (answer.length > MOST_ANSWER) socket.destroy(new Error('the scanner says too much'));
        });
        socket.on('error', reject);
        socket.on('end', () => {
          try {
            resolve(readAnswer(answer));
          } catch (error) {
            reject(error instanceof Error ? error : new Error(String(error)));
          }
        });
        socket.on('connect', () => {
          socket.write('zINSTREAM\0');
          for (let at = 0; at < bytes.length; at += PIECE_BYTES) {
            const piece = bytes.subarray(at, at + PIECE_BYTES);
            socket.write(sizeOf(piece));
            socket.write(piece);
          }
          socket.write(Buffer.alloc(4));
        });
      }),
  };
}

declare module 'pino-roll' {
  import type { Writable } from 'node:stream';
  const open: (options: {
    file: string;
    size?: string;
    extension?: string;
    mkdir?: boolean;
    limit?: { count: number };
  }) => Promise<Writable>;
  export default open;
}

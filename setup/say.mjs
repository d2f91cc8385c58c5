// What a person sees while things are set up: one line a step, and signs of life on every step over two seconds.
import { spawn } from 'node:child_process';

/** A fault that is explained to a person; no stack is shown. */
export class Trouble extends Error {}

const isTerminal = process.stdout.isTTY === true;

/** Runs a step and shows that it is going on. */
export async function step(title, work) {
  const begun = Date.now();
  const seconds = () => Math.round((Date.now() - begun) / 1000);
  let shown = false;
  const tick = setInterval(() => {
    if (isTerminal) process.stdout.write(`\r  ${title} … ${seconds()} s `);
    else if (!shown || seconds() % 10 === 0) console.log(`  ${title} … ${seconds()} s`);
    shown = true;
  }, 2000);
  try {
    const result = await work();
    if (isTerminal && shown) process.stdout.write('\r\x1b[K');
    console.log(`✓ ${title}${seconds() >= 2 ? ` (${seconds()} s)` : ''}`);
    return result;
  } finally {
    clearInterval(tick);
  }
}

/** Runs a program and gives its output; a failure carries what it said. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], ...options });
    let out = '';
    let err = '';
    child.stdout?.on('data', (chunk) => (out += chunk));
    child.stderr?.on('data', (chunk) => (err += chunk));
    child.on('error', (error) => reject(new Trouble(`${command} could not be started: ${error.message}`)));
    child.on('close', (code) =>
      code === 0
        ? resolve(out)
        : reject(
            Object.assign(
              new Trouble(
                `${command} ${args[0] ?? ''} failed (${code}):\n${(err || out).trim().split('\n').slice(-12).join('\n')}`,
              ),
              { code, err },
            ),
          ),
    );
  });
}

/** Runs a program with its output shown; gives its exit code. */
export function show(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('close', (code, signal) => resolve(signal ? 130 : code));
  });
}

/** Runs a main function; explained troubles end with their words and code 1. */
export async function main(work) {
  try {
    process.exitCode = (await work()) ?? 0;
  } catch (error) {
    if (!(error instanceof Trouble)) throw error;
    console.error(`\n✗ ${error.message}`);
    process.exitCode = 1;
  }
}

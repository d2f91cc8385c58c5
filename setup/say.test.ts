import { main, run, show, step, Trouble } from './say.mjs';

let lines: string[];
let errors: string[];
beforeEach(() => {
  [lines, errors] = [[], []];
  jest.spyOn(console, 'log').mockImplementation((line: string) => void lines.push(line));
  jest.spyOn(console, 'error').mockImplementation((line: string) => void errors.push(line));
});
afterEach(() => {
  jest.restoreAllMocks();
  process.exitCode = undefined;
});

describe('a step', () => {
  it('says that it is done, and gives what it made', async () => {
    expect(await step('building', () => Promise.resolve(7))).toBe(7);
    expect(lines).toEqual(['✓ building']);
  });

  it('shows signs of life after two seconds, and how long it took', async () => {
    jest.useFakeTimers();
    const done = step('building', () => new Promise((resolve) => setTimeout(resolve, 25_000)));
    await jest.advanceTimersByTimeAsync(25_000);
    await done;
    jest.useRealTimers();
    expect(lines).toEqual([
      '  building … 2 s',
      '  building … 10 s',
      '  building … 20 s',
      '✓ building (25 s)',
    ]);
  });

  it('that fails says nothing of success, and leaves no clock running', async () => {
    jest.useFakeTimers();
    await expect(step('building', () => Promise.reject(new Error('no space')))).rejects.toThrow('no space');
    expect([lines, jest.getTimerCount()]).toEqual([[], 0]);
    jest.useRealTimers();
  });
});

describe('a program that is run', () => {
  it('gives what it printed', async () => {
    expect(await run(process.execPath, ['-e', 'process.stdout.write("hello")'])).toBe('hello');
  });

  it('fails with the last of what it said, and its code', async () => {
    const script = 'for (let i = 0; i < 40; i++) console.error("line " + i); process.exit(3)';
    const error = await run(process.execPath, ['-e', script]).catch((one: unknown) => one);
    expect(error).toBeInstanceOf(Trouble);
    expect(error).toMatchObject({ code: 3 });
    expect(String(error)).toContain('line 39');
    expect(String(error)).not.toContain('line 5\n');
  });

  it('that is not there is a trouble in words', async () => {
    await expect(run('no-such-program', [])).rejects.toThrow(/no-such-program could not be started/);
  });

  it('shown, gives its code, and 130 where it was ended from outside', async () => {
    const code = (script: string) => show(process.execPath, ['-e', script], { stdio: 'ignore' });
    expect(await code('process.exit(5)')).toBe(5);
    expect(await code('process.kill(process.pid, "SIGTERM"); setTimeout(() => {}, 9999)')).toBe(130);
  });
});

describe('a main function', () => {
  it('ends with its code, or 0', async () => {
    await main(() => Promise.resolve(4));
    expect(process.exitCode).toBe(4);
    await main(() => Promise.resolve(undefined));
    expect(process.exitCode).toBe(0);
  });

  it('ends an explained trouble with its words and no stack', async () => {
    await main(() => Promise.reject(new Trouble('The disk is full.')));
    expect([errors, process.exitCode]).toEqual([['\n✗ The disk is full.'], 1]);
  });

  it('lets every other fault through as it is', async () => {
    await expect(main(() => Promise.reject(new TypeError('a bug')))).rejects.toThrow('a bug');
  });
});

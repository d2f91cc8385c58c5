import { appendFileSync } from 'node:fs';
import type { Reporter, TestCase, TestResult } from '@playwright/test/reporter';

/** Notes what failed in a file, so that it can be said again at the end of several runs. */
export default class Recap implements Reporter {
  onTestEnd(test: TestCase, { status, errors }: TestResult): void {
    const file = process.env.E2E_RECAP;
    if (!file || status === 'passed' || status === 'skipped') return;
    const words = errors.map(({ message = '' }) => message).join('\n');
    appendFileSync(file, `${test.titlePath().filter(Boolean).join(' › ')}: ${status}\n${words}\n`);
  }
}

import { defineConfig } from '@playwright/test';
import base from './playwright.config';

/** `npm run screenshots`: one current picture of each main view, from the demo data. */
export default defineConfig({
  ...base,
  projects: [{ name: 'screenshots', testMatch: 'screenshots.shots.ts' }],
});

import { chromium } from '@playwright/test';
import { CHROMIUM } from './chromium';

export interface Plate {
  title: string;
  /** How sure each was said to be, null where nothing was said, and whether it was right. */
  judged: readonly { confidence: number | null; isRight: boolean }[];
}

const [SIZE, GAP, BINS] = [280, 70, 10];
const [INK, RULE, MADDER, SHEET] = ['#23201B', '#DACFBB', '#8A2D3B', '#FFFDF8'];

interface Bin {
  confidence: number;
  share: number;
  count: number;
}

function binsOf(judged: Plate['judged']): Bin[] {
  const claims = judged.flatMap((one) => (one.confidence === null ? [] : [{ ...one, sure: one.confidence }]));
  return Array.from({ length: BINS }, (_, bin) => {
    const within = claims.filter(({ sure }) => Math.min(BINS - 1, Math.floor(sure * BINS)) === bin);
    const count = within.length;
    return {
      confidence: within.reduce((sum, one) => sum + one.sure, 0) / Math.max(1, count),
      share: within.filter((one) => one.isRight).length / Math.max(1, count),
      count,
    };
  }).filter((bin) => bin.count > 0);
}

function plate({ title, judged }: Plate, at: number): string {
  const left = GAP + at * (SIZE + GAP);
  const x = (value: number): number => left + value * SIZE;
  const y = (value: number): number => GAP + (1 - value) * SIZE;
  const grid = [0, 0.25, 0.5, 0.75, 1].map(
    (step) =>
      `<path d="M${x(step)} ${y(0)}V${y(1)}M${x(0)} ${y(step)}H${x(1)}" stroke="${RULE}"/><text x="${x(step)}" y="${y(0) + 18}" text-anchor="middle">${step}</text><text x="${x(0) - 8}" y="${y(step) + 4}" text-anchor="end">${step}</text>`,
  );
  const dots = binsOf(judged).map(
    ({ confidence, share, count }) =>
      `<circle cx="${x(confidence)}" cy="${y(share)}" r="${3 + Math.min(14, Math.sqrt(count))}" fill="${MADDER}" fill-opacity="0.75"/><text x="${x(confidence) - 8 - Math.min(14, Math.sqrt(count))}" y="${y(share) + 4}" text-anchor="end">${count}</text>`,
  );
  return `<text x="${left}" y="${GAP - 18}" font-size="16">${title}</text>${grid.join('')}<path d="M${x(0)} ${y(0)}L${x(1)} ${y(1)}" stroke="${INK}" stroke-dasharray="4 4"/>${dots.join('')}<text x="${x(0.5)}" y="${y(0) + 40}" text-anchor="middle">confidence given</text>`;
}

/**
 * Draws how sure claims were against the share of them that was right, a dot for each tenth with the number of its claims.
 * @param path where the picture is written, PNG
 */
export async function drawReliability(plates: readonly Plate[], path: string): Promise<void> {
  const [width, height] = [GAP + plates.length * (SIZE + GAP), SIZE + 2 * GAP];
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-family="sans-serif" font-size="12" fill="${INK}"><rect width="100%" height="100%" fill="${SHEET}"/><text x="16" y="${GAP + SIZE / 2}" transform="rotate(-90 16 ${GAP + SIZE / 2})" text-anchor="middle">share that is right</text>${plates.map(plate).join('')}</svg>`;
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width, height } });
  await page.setContent(`<style>body{margin:0}</style>${drawing}`);
  await page.screenshot({ path });
  await browser.close();
}

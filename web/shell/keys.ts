/** The keys of a page, as the help of `?` lists them. */
export interface KeyLine {
  keys: string;
  does: string;
}

const EVERYWHERE: KeyLine[] = [
  { keys: 'Ctrl K', does: 'Find a record, or type what to do' },
  { keys: 'Ctrl Z', does: 'Undo what was just saved' },
  { keys: '?', does: 'Show these keys' },
  { keys: 'Esc', does: 'Close a dialog, leave a field unchanged' },
];
const PAGES: { path: RegExp; lines: KeyLine[] }[] = [
  {
    path: /^\/arrivals/,
    lines: [
      { keys: '↓ or j', does: 'Next arrival' },
      { keys: '↑ or k', does: 'Previous arrival' },
      { keys: 'Enter', does: 'File it' },
      { keys: 'e', does: 'Correct what was read' },
      { keys: 'x', does: 'Set aside' },
    ],
  },
  {
    path: /^\/round$/,
    lines: [
      { keys: '↓ or j', does: 'Next line' },
      { keys: '↑ or k', does: 'Previous line' },
      { keys: 'd', does: 'Done, or answered' },
      { keys: 'l', does: 'Later: type a day' },
      { keys: 'c', does: 'Call' },
      { keys: 'w', does: 'Write' },
      { keys: 'Enter', does: 'Open the record' },
    ],
  },
  {
    path: /^\/round\/(?:day|week|month|agenda)$/,
    lines: [
      { keys: 'j k', does: 'Later, earlier' },
      { keys: 't', does: 'Today' },
      { keys: 'n', does: 'New meeting' },
      { keys: 'Alt ← → ↑ ↓', does: 'Move what is chosen by a day or a quarter of an hour' },
      { keys: 'Alt Shift ↑ ↓', does: 'Make it shorter or longer' },
    ],
  },
  {
    path: /^\/(?:people|leads)\/triage$/,
    lines: [
      { keys: '1 to 9', does: 'Prospect, with that plan' },
      { keys: 'p', does: 'Prospect, without a plan' },
      { keys: 'c a e d', does: 'Customer, partner, personal, drop' },
      { keys: 'k', does: 'Skip' },
      { keys: 'u', does: 'Bring the last one back' },
    ],
  },
  {
    path: /^\/(?:people|companies)\/look-alikes$/,
    lines: [
      { keys: '↓ ↑', does: 'Next, previous' },
      { keys: 's', does: 'Merge: the same' },
      { keys: 'd', does: 'Keep apart: different' },
      { keys: 'n', does: 'Keep apart: namesakes' },
      { keys: 'f', does: 'Keep apart: father and son' },
      { keys: 'k', does: 'Skip' },
    ],
  },
  {
    path: /^\/deals(?:\/table)?$/,
    lines: [
      { keys: 't', does: 'Lanes or table' },
      { keys: 'Shift ↓ or Shift ↑', does: 'Move the deal to the next or previous stage' },
    ],
  },
  {
    path: /\/views(?:\/|$)/,
    lines: [
      { keys: 'Enter, Backspace, Esc', does: 'While drawing an area: use it, one corner back, leave it' },
    ],
  },
  { path: /^\/calls\//, lines: [{ keys: 'Ctrl Enter', does: 'Save the call' }] },
  {
    path: /^\/(?:people|companies|deals|leads)\/[0-9a-f-]{8,}/,
    lines: [{ keys: 'Enter', does: 'In the line at the foot: save it' }],
  },
];

/** The keys that work at an address: its own, then those that work everywhere. */
export const keysOf = (path: string): KeyLine[] => [
  ...(PAGES.find((page) => page.path.test(path))?.lines ?? []),
  ...EVERYWHERE,
];

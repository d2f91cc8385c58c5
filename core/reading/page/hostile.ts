/** Pages that are small and meant to hold a reader up, for the tests and for `npm run bench reader`: what each is made of, and the page. */
export const HOSTILE_PAGES: readonly (readonly [string, string])[] = [
  ['elements nested deep', '<div class="h-card">'.repeat(20_000)],
  ['tables nested deep', '<table><tr><td>'.repeat(20_000)],
  ['lists nested deep', '<dl><dd>'.repeat(40_000)],
  [
    'JSON nested deep',
    `<script type="application/ld+json">${'['.repeat(20_000)}${']'.repeat(20_000)}</script>`,
  ],
  [
    'many scripts',
    '<script type="application/ld+json">{"@type":"Person","name":"A B"}</script>'.repeat(3000),
  ],
  ['many cards', '<p class="h-card">A B</p>'.repeat(20_000)],
  ['digits', '1234567890 '.repeat(30_000)],
  ['one line', `<p>${'Buyer at '.repeat(40_000)}</p>`],
  ['labels', 'Email:\n'.repeat(30_000)],
  ['full stops', `<p>${'. '.repeat(900)}</p>`.repeat(200)],
  ['labels in cells', `<table>${`<tr>${'<td>Email</td><td>none</td>'.repeat(50)}</tr>`.repeat(200)}</table>`],
];

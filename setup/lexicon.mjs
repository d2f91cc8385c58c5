// `npm run lexicon`: writes the words that are data of open packages into core/reading/lexicon. Run it again when a language is added.
//   core/reading/lexicon/numbers.json: the numbers from 1 to 100 that are one word, and 200 to 900, by n2words (MIT), in every language read.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as languages from 'n2words';
import { root } from './prepare.mjs';

const READ = ['en', 'de', 'fr', 'es', 'pt', 'it', 'nl', 'sv', 'da', 'nb', 'pl'];
/** Numbers in one language and little words in another. */
const MISTAKABLE = new Set(['to', 'en', 'et', 'sto', 'uno']);
const NUMBERS = [...Array.from({ length: 100 }, (_, at) => at + 1), 200, 300, 400, 500, 600, 700, 800, 900];

const numbers = {};
for (const language of READ)
  for (const number of NUMBERS) {
    const word = languages[language](number).toLowerCase();
    // A word that is two numbers in two languages is that of the language named first.
    if (/^\p{L}{2,}$/u.test(word) && !MISTAKABLE.has(word)) numbers[word] ??= number;
  }
const sorted = Object.fromEntries(
  Object.entries(numbers).sort(([a, one], [b, other]) => one - other || a.localeCompare(b)),
);
writeFileSync(join(root, 'core/reading/lexicon/numbers.json'), `${JSON.stringify(sorted, null, 2)}\n`);
console.log(`${Object.keys(sorted).length} number words in ${READ.length} languages`);

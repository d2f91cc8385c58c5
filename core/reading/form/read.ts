import { claimOf } from '../call/labelled';
import { digestOf } from '../digest';
import { readIntents } from '../intents/read';
import { fieldOfLabel } from '../table/labels';
import { toneOf } from '../tone';
import type { Claim, Reading, ReadOptions } from '../types';

/** One answer of a form, as it was given. */
export interface FormAnswer {
  /** What the form calls the field. */
  name: string;
  label: string;
  value: string;
  /** What the field stands for, where the form says so; else it is told by its label. */
  field?: Claim['field'] | null;
}
export interface FormSubmission {
  form: string;
  answers: readonly FormAnswer[];
  page?: string | null;
}

/**
 * Reads what somebody filled in. Fields are taken by what the form says they stand for, else by their labels; words of
 * their own are read as those of a letter are.
 */
export function readForm(submission: FormSubmission, options: ReadOptions = {}): Reading {
  const claims: Claim[] = [];
  const lines: { text: string; start: number }[] = [];
  let text = '';
  const names: { given?: string; family?: string } = {};
  for (const { label, name, value, field } of submission.answers) {
    const shown = value.trim();
    if (!shown) continue;
    const head = `${label || name}: `;
    const start = text.length + head.length;
    text += `${head}${shown}\n`;
    const labelled = field === undefined ? (fieldOfLabel(label) ?? fieldOfLabel(name)) : null;
    const target = field ?? labelled?.field ?? null;
    if (target === 'givenName') names.given = shown;
    else if (target === 'familyName') names.family = shown;
    if (target === 'note' || (target === null && /\s/.test(shown) && shown.length > 20)) {
      let at = start;
      for (const line of shown.split('\n')) {
        lines.push({ text: line, start: at });
        at += line.length + 1;
      }
    }
    const claim = target ? claimOf(target, shown, labelled?.type ?? null, options.country) : null;
    if (claim && target !== 'note' && target !== 'givenName' && target !== 'familyName')
      claims.push({
        ...claim,
        confidence: Math.max(claim.confidence, 0.93),
        span: { part: 'text', start, end: start + shown.length },
        source: `“${label || name}”`,
      });
  }
  const whole = [names.given, names.family].filter(Boolean).join(' ');
  if (whole && !claims.some((claim) => claim.field === 'fullName')) {
    const claim = claimOf('fullName', whole, null, undefined);
    if (claim) claims.unshift({ ...claim, source: 'given and family name' });
  }
  const said = lines
    .map((line) => line.text)
    .join(' ')
    .trim();
  const intents = readIntents(
    lines,
    options.receivedAt ?? '1970-01-01T00:00:00+00:00',
    options.country ? [options.country] : [],
    options.currency,
  );
  const of = (field: Claim['field']): string => claims.find((claim) => claim.field === field)?.value ?? '';
  return {
    kind: 'form',
    claims,
    intents,
    message: {
      from: of('fullName') || of('email') ? { name: of('fullName'), address: of('email') } : null,
      to: [],
      subject: submission.form,
      sentAt: null,
      messageId: null,
      references: [],
      body: 'plain',
      text: text.trimEnd(),
      said: said.slice(0, 600),
      attachments: [],
      side: 'theirs',
      digest: digestOf(lines, intents),
      tone: said ? toneOf(said) : null,
    },
    notices: [],
  };
}

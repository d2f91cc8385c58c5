import { runInTransaction, type Actor, type Tools } from '@emporikon/server/commands/context';
import { putSignature } from '@emporikon/server/letters/mine';
import { addTemplate } from '@emporikon/server/letters/templates';

const TEMPLATES = [
  {
    folder: 'First answers',
    name: 'Thank you for asking',
    shortcut: 'thanks',
    subject: 'Your question about cargo bikes',
    html: '<p>Dear {{ person.first_name | default: "there" }},</p><p>thank you for asking about our bikes{% if company.name %} for {{ company.name }}{% endif %}. The Long carries 120 kg and still fits through a shop door.</p><p>May I ring you this week and hear what you carry, and how far?</p>',
  },
  {
    folder: 'First answers',
    name: 'Come for a test ride',
    shortcut: 'ride',
    subject: 'Come for a test ride',
    html: '<p>Dear {{ person.first_name | default: "there" }},</p><p>the quickest way to know whether a cargo bike works for you is to ride one with your own load on it. We keep one of each at the wharf.</p><p>Which of these would suit you: Tuesday or Thursday morning?</p>',
  },
  {
    folder: 'Deals',
    name: 'Does the quote fit?',
    shortcut: 'quote',
    subject: 'Your quote',
    html: '<p>Dear {{ person.first_name | default: "there" }},</p><p>last week I sent you our quote{% if deal.title %} for {{ deal.title }}{% endif %}. Does it fit what you had in mind, or should we change something?</p><p>I hold the price until the end of the month.</p>',
  },
  {
    folder: 'Service',
    name: 'Time for a check',
    shortcut: 'check',
    subject: '{{ person.first_name }}, your bikes are due a check',
    html: '<p>Dear {{ person.first_name }},</p><p>your bikes have been on the road for a year. Before the season we check brakes, belt and battery, and it takes us half a morning{% if company.name %} at {{ company.name }}{% endif %}.</p><p>Shall I come by in the next two weeks?</p>',
  },
] as const;

/** The templates of the team, and the signature of whoever writes most. */
export async function loadLetters(
  at: (hoursAgo: number) => Tools,
  actors: ReadonlyMap<string, Actor>,
): Promise<void> {
  const mara = actors.get('Mara Quill') ?? null;
  const pell = actors.get('Pell Garrick') ?? null;
  await runInTransaction(at(20 * 24), mara, async (context) => {
    for (const template of TEMPLATES) await addTemplate(context, { ...template, shared: true });
  });
  await runInTransaction(at(20 * 24), pell, (context) =>
    putSignature(context, {
      version: 0,
      html: '<p>Pell Garrick<br>Wharfside Cargo Cycles<br>+44 20 7946 0100</p>',
    }),
  );
}

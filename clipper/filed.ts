import type { Reply } from '@emporikon/contract';
import { el } from './dom';
import { call } from './server';
import { close, show, start, tellProblem } from './sheet';
import type { Account } from './store';

interface Made {
  words: string;
  /** Where it is in the application. */
  path: string;
  eventId: string | null;
}

/** What was made of the page, with the way to it and the way back. */
export function showMade(mine: Account, { words, path, eventId }: Made): void {
  const said = el('div', { role: 'status' });
  const undo = async (id: string): Promise<void> => {
    try {
      await call(mine, 'POST /api/events/:id/undo', { params: { id } });
      await start();
    } catch (error) {
      said.replaceChildren(tellProblem(error));
    }
  };
  show(
    el('h1', {}, 'Filed'),
    el('p', {}, words),
    el('a', { href: `${mine.server}${path}`, target: '_blank', rel: 'noreferrer' }, 'Open the dossier'),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill', click: () => void close() }, 'Close'),
      eventId ? el('button', { click: () => void undo(eventId) }, 'Undo') : null,
    ),
    said,
  );
}

export const showFiled = (mine: Account, filed: Reply<'POST /api/captures/:id/filing'>): void =>
  showMade(mine, {
    words: [
      filed.person.name,
      filed.company?.name,
      filed.lead && `lead “${filed.lead.name}”`,
      filed.deal && `deal “${filed.deal.name}”`,
    ]
      .filter(Boolean)
      .join(', '),
    path: `/people/${filed.person.id}`,
    eventId: filed.eventId,
  });

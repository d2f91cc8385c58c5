import type { Reply } from '@emporikon/contract';
import { el } from './dom';
import { call } from './server';
import { close, show, start, tellProblem } from './sheet';
import type { Account } from './store';

/** What was made of the page, with the way to it and the way back. */
export function showFiled(mine: Account, filed: Reply<'POST /api/captures/:id/filing'>): void {
  const parts = [
    filed.person.name,
    filed.company?.name,
    filed.lead && `lead “${filed.lead.name}”`,
    filed.deal && `deal “${filed.deal.name}”`,
  ];
  const said = el('div', { role: 'status' });
  const undo = async (id: string): Promise<void> => {
    try {
      await call(mine, 'POST /api/events/:id/undo', { params: { id } });
      await start();
    } catch (error) {
      said.replaceChildren(tellProblem(error));
    }
  };
  const { eventId } = filed;
  show(
    el('h1', {}, 'Filed'),
    el('p', {}, parts.filter(Boolean).join(', ')),
    el(
      'a',
      { href: `${mine.server}/people/${filed.person.id}`, target: '_blank', rel: 'noreferrer' },
      'Open the dossier',
    ),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill', click: () => void close() }, 'Close'),
      eventId ? el('button', { click: () => void undo(eventId) }, 'Undo') : null,
    ),
    said,
  );
}

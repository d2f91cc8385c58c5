import { el, labelled } from './dom';
import { call, Refused } from './server';
import { tellProblem } from './sheet';
import type { Account } from './store';

const day = (iso: string): string => new Date(iso).toLocaleDateString();
const fact = (name: string, ...value: (Node | string | null)[]): HTMLElement =>
  el('p', { class: 'fact' }, el('span', { class: 'soft' }, `${name} `), ...value);

/**
 * The record of somebody we know, beside their page: whose turn it is, what was said last, open deals and the next move. The
 * job title is corrected in place, and a line of plain words adds a note, a task or a deal's value.
 */
export function recordPart(mine: Account, personId: string): HTMLElement {
  const box = el('section', { 'aria-label': 'In your records' });
  const status = el('div', { role: 'status' });

  async function fill(): Promise<void> {
    const params = { id: personId };
    const [person, ledger] = await Promise.all([
      call(mine, 'GET /api/people/:id', { params }),
      call(mine, 'GET /api/ledger', { query: { personId, limit: '1' } }),
    ]);
    const [last] = ledger.items;
    const { nextMove } = person;
    const title = el('input', { name: 'record-title', value: person.jobTitle.value ?? '' });
    title.addEventListener('change', () => void correct(person.version, title.value));
    const line = el('input', { name: 'line', placeholder: 'note: met at the fair · call Thursday 11' });
    line.addEventListener('keydown', (event) => {
      if (event.key !== 'Enter' || !line.value.trim()) return;
      event.preventDefault();
      void write(line.value.trim());
    });
    box.replaceChildren(
      el(
        'h2',
        {},
        el(
          'a',
          { href: `${mine.server}/people/${person.id}`, target: '_blank', rel: 'noreferrer' },
          person.fullName.value ?? '',
        ),
      ),
      el(
        'p',
        { class: 'soft' },
        [person.company?.name, person.standing, person.owner?.name].filter(Boolean).join(' · '),
      ),
      fact('Turn', `${person.turn.because}${person.turn.since ? `, ${day(person.turn.since)}` : ''}`),
      last ? fact('Last', `${last.headline}, ${day(last.at)}`) : fact('Last', 'Nothing logged yet.'),
      nextMove
        ? fact('Next move', `${nextMove.title}${nextMove.dueAt ? `, ${day(nextMove.dueAt)}` : ''}`)
        : fact('Next move', el('span', { class: 'maybe' }, 'None set.')),
      ...person.deals.map((deal) =>
        fact(
          'Deal',
          el(
            'a',
            { href: `${mine.server}/deals/${deal.id}`, target: '_blank', rel: 'noreferrer' },
            deal.name,
          ),
          `, ${deal.stage}`,
        ),
      ),
      labelled('Their job title', title),
      labelled('Add a note, task or next move', line),
      status,
    );
  }
  async function correct(version: number, jobTitle: string): Promise<void> {
    try {
      await call(mine, 'PATCH /api/people/:id', {
        params: { id: personId },
        body: { version, jobTitle: jobTitle.trim() || null },
      });
      status.replaceChildren(el('p', { class: 'same' }, 'Saved.'));
      await fill();
    } catch (error) {
      await fill();
      status.replaceChildren(
        error instanceof Refused && error.status === 409
          ? el('p', { class: 'wrong' }, 'Somebody else changed this record. It is shown as it is now.')
          : tellProblem(error),
      );
    }
  }
  async function write(line: string): Promise<void> {
    try {
      const { saved } = await call(mine, 'POST /api/ledger', { body: { line, about: { personId } } });
      await fill();
      status.replaceChildren(el('p', { class: 'same' }, `Saved: ${saved.join(', ')}.`));
    } catch (error) {
      status.replaceChildren(tellProblem(error));
    }
  }
  fill().catch((error: unknown) => box.replaceChildren(tellProblem(error)));
  return box;
}

import type { CaptureDetail } from '@emporikon/contract/captures';
import { claimLine } from './claims';
import { el, labelled, select } from './dom';
import { showMade } from './filed';
import { call, Unreachable } from './server';
import { close, leaveNothing, show, start, tellProblem } from './sheet';
import type { Account } from './store';
import { askWhich } from './who';

/** The question which company it is, where it may be one of several. */
function whichCompany({ verdict }: CaptureDetail, choose: (company: string) => void): HTMLElement {
  const { kind, matches } = verdict.company;
  const [best] = matches;
  if (kind === 'same' && best) return el('p', { class: 'same' }, `${best.label} is in your records.`);
  if (kind === 'new') return el('p', {}, 'Not in your records yet.');
  return askWhich(
    { legend: 'This may be a company in your records', group: 'which', matches, none: 'a new company' },
    choose,
  );
}

/** The sheet of a company page: its name, what was read, who looks after it. One Enter files it. */
export async function fileCompany(mine: Account, capture: CaptureDetail): Promise<void> {
  const made = capture.filedAs?.company;
  if (capture.state === 'filed')
    return show(
      el('h1', {}, capture.from),
      el('p', { class: 'same' }, 'This page is already filed.'),
      made
        ? el(
            'a',
            { href: `${mine.server}/companies/${made.id}`, target: '_blank', rel: 'noreferrer' },
            `Open ${made.name}`,
          )
        : null,
      el('div', { class: 'foot' }, el('button', { click: () => void close() }, 'Close')),
    );
  const chosen = { company: null as string | null };
  const name = el('input', { name: 'company', value: capture.verdict.companyName ?? '' });
  const users = await call(mine, 'GET /api/users');
  const owner = select('owner', [
    ['', 'me, or who it is now'],
    ...users.items.map((user) => [user.id, user.name] as const),
  ]);
  const said = el('div', { role: 'status' });
  const file = async (): Promise<void> => {
    said.replaceChildren(el('p', { class: 'soft' }, 'Filing…'));
    try {
      const typed = name.value.trim();
      const { company, eventId } = await call(mine, 'POST /api/captures/:id/company', {
        params: { id: capture.id },
        body: {
          ...(chosen.company ? { company: chosen.company } : {}),
          ...(typed && typed !== capture.verdict.companyName ? { companyName: typed } : {}),
          ...(owner.value ? { ownerId: owner.value } : {}),
        },
      });
      leaveNothing(null);
      showMade(mine, { words: company.name, path: `/companies/${company.id}`, eventId });
    } catch (error) {
      if (!(error instanceof Unreachable)) return said.replaceChildren(tellProblem(error));
      leaveNothing(null);
      said.replaceChildren(
        el('p', {}, 'Emporikon does not answer. The page waits in Arrivals; file it there.'),
      );
    }
  };
  const form = el(
    'form',
    {},
    el('h1', {}, capture.verdict.companyName ?? capture.from),
    whichCompany(capture, (company) => (chosen.company = company)),
    el('div', { class: 'two' }, labelled('Company', name), labelled('Owner', owner)),
    el('h2', {}, 'What we read'),
    ...capture.claims.map((claim) => claimLine(mine, claim)),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill' }, 'Save the company'),
      el('button', { type: 'button', click: () => void start() }, 'Read again'),
      el('button', { type: 'button', click: () => void close() }, 'Close'),
    ),
    said,
  );
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    void file();
  });
  leaveNothing({ mine, id: capture.id });
  show(form);
  name.focus();
}

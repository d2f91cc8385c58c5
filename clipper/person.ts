import type { CaptureDetail } from '@emporikon/contract/captures';
import { readComposerLine } from '@emporikon/core/ledger/composer';
import { minorOf } from '@emporikon/core/ledger/sum';
import { claimLine } from './claims';
import { el, labelled, select } from './dom';
import { showFiled } from './filed';
import { call, Unreachable } from './server';
import { recordPart } from './record';
import { close, leaveNothing, show, split, start, tellProblem, type Page } from './sheet';
import { keep, type Account } from './store';
import { whoLines } from './who';

interface Team {
  users: { id: string; name: string }[];
  stages: { id: string; name: string }[];
}

async function teamOf(mine: Account): Promise<Team> {
  const [users, stages] = await Promise.all([call(mine, 'GET /api/users'), call(mine, 'GET /api/stages')]);
  return { users: users.items, stages: stages.items.filter((item) => item.kind === 'open') };
}

/** The deals of somebody we know, to attach the page to; none of somebody new. */
async function fillDeals(mine: Account, field: HTMLSelectElement, id: string | undefined): Promise<void> {
  const { deals } =
    id && id !== 'new' ? await call(mine, 'GET /api/people/:id', { params: { id } }) : { deals: [] };
  field.replaceChildren(
    el('option', { value: '' }, 'a new one'),
    ...deals.map((deal) => el('option', { value: deal.id }, deal.name)),
  );
}

/** The sheet of a profile or company page: what was read, who it is, what to make of it. One Enter files it. */
export async function filePerson(mine: Account, capture: CaptureDetail, page: Page): Promise<void> {
  const chosen = { person: null as string | null };
  if (capture.state === 'filed') {
    show(
      el('h1', {}, capture.from),
      el('p', { class: 'same' }, 'This page is already filed.'),
      capture.filedAs?.person ? recordPart(mine, capture.filedAs.person.id) : null,
      el('div', { class: 'foot' }, el('button', { click: () => void close() }, 'Close')),
    );
    return;
  }
  const me = await call(mine, 'GET /api/session');
  const team = await teamOf(mine);
  const as = select(
    'as',
    [
      ['lead', 'a lead'],
      ['person', 'a person only'],
      ['deal', 'a deal'],
    ],
    'lead',
  );
  const owner = select('owner', [
    ['', 'me, or who it is now'],
    ...team.users.map((user) => [user.id, user.name] as const),
  ]);
  const tags = el('input', { name: 'tags', placeholder: 'separated by commas' });
  const company = el('input', { name: 'company', value: capture.verdict.companyName ?? '' });
  const note = el('textarea', { name: 'note', rows: '2' });
  const move = el('input', { name: 'move', placeholder: 'call Thursday 11' });
  const deal = select('deal', [['', 'a new one']]);
  await fillDeals(mine, deal, capture.known?.person.id);
  const title = el('input', { name: 'deal-title', placeholder: 'what it is about' });
  const value = el('input', { name: 'deal-value', inputmode: 'decimal' });
  const stage = select('stage', [
    ['', 'the first'],
    ...team.stages.map((stage) => [stage.id, stage.name] as const),
  ]);
  const dealPart = el(
    'div',
    { class: 'two', hidden: true },
    labelled('Deal', deal),
    labelled('What about', title),
    labelled(`Value in ${me.currency}`, value),
    labelled('Stage', stage),
  );
  as.addEventListener('change', () => (dealPart.hidden = as.value !== 'deal'));
  const said = el('div', { role: 'status' });
  const readMove = (): object | null => {
    if (!move.value.trim()) return null;
    const { nextMove } = readComposerLine(move.value, {
      now: new Date().toISOString(),
      zone: me.timeZone,
      userId: me.id,
      currency: me.currency,
      users: team.users,
    });
    const day = new Date(Date.now() + 86_400_000).toISOString();
    return nextMove
      ? { title: nextMove.title, kind: nextMove.kind, dueAt: nextMove.dueAt, allDay: nextMove.allDay }
      : { title: move.value.trim(), kind: 'task', dueAt: day, allDay: true };
  };
  const dealInput = (): object => {
    if (as.value !== 'deal') return {};
    if (deal.value) return { deal: deal.value };
    if (!title.value.trim() && !value.value.trim()) return {};
    return {
      deal: {
        title: title.value.trim() || 'New deal',
        amountMinor: minorOf(value.value, me.currency),
        currency: me.currency,
        ...(stage.value ? { stageId: stage.value } : {}),
      },
    };
  };
  const choice = (): Record<string, unknown> => ({
    as: as.value,
    ...(chosen.person ? { person: chosen.person } : {}),
    ...(company.value.trim() && company.value.trim() !== capture.verdict.companyName
      ? { companyName: company.value.trim() }
      : {}),
    ...(!company.value.trim() ? { company: 'none' } : {}),
    ...(owner.value ? { ownerId: owner.value } : {}),
    ...(tags.value.trim() ? { tags: split(tags.value) } : {}),
    ...(note.value.trim() ? { note: note.value.trim() } : {}),
    ...dealInput(),
    nextMove: readMove(),
  });
  let isBusy = false;
  const file = async (): Promise<void> => {
    if (isBusy) return;
    isBusy = true;
    said.replaceChildren(el('p', { class: 'soft' }, 'Filing…'));
    try {
      const body = choice();
      const filed = await call(mine, 'POST /api/captures/:id/filing', { params: { id: capture.id }, body });
      leaveNothing(null);
      showFiled(mine, filed);
    } catch (error) {
      if (error instanceof Unreachable) {
        leaveNothing(null);
        await keep({ id: capture.id, ...page, filing: choice(), at: new Date().toISOString() });
        show(
          el('h1', {}, 'Kept'),
          el('p', {}, `Emporikon does not answer. ${capture.from} will be filed as you chose when it does.`),
          el('div', { class: 'foot' }, el('button', { click: () => void close() }, 'Close')),
        );
      } else said.replaceChildren(tellProblem(error));
    } finally {
      isBusy = false;
    }
  };
  const form = el(
    'form',
    {},
    el('h1', {}, capture.from),
    whoLines(capture, (person) => {
      chosen.person = person;
      void fillDeals(mine, deal, person);
    }),
    labelled('Note', note),
    labelled('Next move', move),
    el(
      'div',
      { class: 'two' },
      labelled('File as', as),
      labelled('Owner', owner),
      labelled('Company', company),
      labelled('Tags', tags),
    ),
    dealPart,
    capture.known ? recordPart(mine, capture.known.person.id) : null,
    el('h2', {}, 'What we read'),
    ...capture.claims.map((claim) => claimLine(mine, claim)),
    capture.claims.length ? null : el('p', { class: 'soft' }, 'Nothing was read from this page.'),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill' }, 'File it'),
      el('button', { type: 'button', click: () => void start() }, 'Read again'),
      el('button', { type: 'button', click: () => void close() }, 'Close'),
    ),
    said,
  );
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    void file();
  });
  note.addEventListener('keydown', (event) => {
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void file();
  });
  leaveNothing({ mine, id: capture.id });
  show(form);
  note.focus();
}

import type { CaptureDetail, Claim } from '@emporikon/contract/captures';
import { readComposerLine } from '@emporikon/core/ledger/composer';
import { el, labelled, select } from './dom';
import { call } from './server';
import { close, show, split, start, tellProblem } from './sheet';
import type { Account } from './store';

const NAMES: Record<string, string> = {
  fullName: 'Name',
  jobTitle: 'Job title',
  companyName: 'Company',
  email: 'Email',
  phone: 'Phone',
  url: 'Web',
  profile: 'Profile',
  address: 'Address',
  birthday: 'Birthday',
};

function claimLine(mine: Account, claim: Claim): HTMLElement {
  const line = el('div', { class: claim.fate === 'rejected' ? 'claim out' : 'claim' });
  const input = el('input', { value: claim.value, 'aria-label': NAMES[claim.field] ?? claim.field });
  let { id } = claim;
  const said = el('span', { class: 'wrong' });
  const patch = async (body: object): Promise<void> => {
    try {
      const { claim: now } = await call(mine, 'PATCH /api/claims/:id', { params: { id }, body });
      ({ id } = now);
      said.textContent = '';
    } catch (error) {
      said.textContent = error instanceof Error ? error.message : '';
    }
  };
  input.addEventListener('change', () => void patch({ value: input.value.trim() }));
  const refuse = el('button', { type: 'button', 'aria-label': `Refuse ${claim.value}` }, 'no');
  refuse.addEventListener('click', () => {
    const out = line.classList.toggle('out');
    refuse.textContent = out ? 'yes' : 'no';
    void patch({ fate: out ? 'rejected' : 'proposed' });
  });
  line.append(el('span', { class: 'soft' }, NAMES[claim.field] ?? claim.field), input, refuse, said);
  return line;
}

function verdictLines(capture: CaptureDetail, chosen: { person: string | null }): HTMLElement {
  const { kind, matches } = capture.verdict.person;
  const { known } = capture;
  if (kind === 'same' && known)
    return el(
      'div',
      {},
      el('p', { class: 'same' }, `We know ${known.person.name}.`),
      el('p', {}, `${known.owner ? `${known.owner} looks after them. ` : ''}${known.turn.because}.`),
      known.nextMove
        ? el(
            'p',
            { class: 'soft' },
            `Next: ${known.nextMove.title}, ${new Date(known.nextMove.dueAt).toLocaleDateString()}`,
          )
        : null,
    );
  if (kind === 'new') return el('p', {}, 'Nobody we know yet.');
  const choose = (id: string) => (): void => void (chosen.person = id);
  return el(
    'fieldset',
    {},
    el('legend', { class: 'maybe' }, 'This may be somebody we know'),
    ...matches.map((match) =>
      el(
        'label',
        {},
        el('input', { type: 'radio', name: 'who', change: choose(match.id) }),
        ` ${match.label} (${Math.round(match.probability * 100)}%)`,
      ),
    ),
    el('label', {}, el('input', { type: 'radio', name: 'who', change: choose('new') }), ' somebody new'),
  );
}

interface Team {
  users: { id: string; name: string }[];
  stages: { id: string; name: string }[];
  deals: { id: string; name: string }[];
}

async function teamOf(mine: Account, capture: CaptureDetail): Promise<Team> {
  const [users, stages] = await Promise.all([call(mine, 'GET /api/users'), call(mine, 'GET /api/stages')]);
  const id = capture.known?.person.id;
  const { deals } = id ? await call(mine, 'GET /api/people/:id', { params: { id } }) : { deals: [] };
  return {
    users: users.items,
    stages: stages.items.filter((one) => one.kind === 'open'),
    deals: deals.map((deal) => ({ id: deal.id, name: deal.name })),
  };
}

/** The sheet of a profile or company page: what was read, who it is, what to make of it. One Enter files it. */
export async function filePerson(mine: Account, capture: CaptureDetail): Promise<void> {
  const chosen = { person: null as string | null };
  if (capture.state === 'filed') {
    show(
      el('h1', {}, capture.from),
      el('p', { class: 'same' }, 'This page, as it is, is filed already.'),
      el('button', { click: close }, 'Close'),
    );
    return;
  }
  const me = await call(mine, 'GET /api/session');
  const team = await teamOf(mine, capture);
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
    ...team.users.map((one) => [one.id, one.name] as const),
  ]);
  const tags = el('input', { name: 'tags', placeholder: 'parted by commas' });
  const company = el('input', { name: 'company', value: capture.verdict.companyName ?? '' });
  const note = el('textarea', { name: 'note', rows: '2' });
  const move = el('input', { name: 'move', placeholder: 'call Thursday 11' });
  const deal = select('deal', [['', 'a new one'], ...team.deals.map((one) => [one.id, one.name] as const)]);
  const title = el('input', { name: 'deal-title', placeholder: 'what it is about' });
  const value = el('input', { name: 'deal-value', inputmode: 'decimal' });
  const stage = select('stage', [
    ['', 'the first'],
    ...team.stages.map((one) => [one.id, one.name] as const),
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
  const dealInput = (): object =>
    as.value !== 'deal'
      ? {}
      : deal.value
        ? { deal: deal.value }
        : title.value.trim()
          ? {
              deal: {
                title: title.value.trim(),
                amountMinor: value.value ? Math.round(Number(value.value.replace(',', '.')) * 100) : null,
                currency: me.currency,
                ...(stage.value ? { stageId: stage.value } : {}),
              },
            }
          : {};
  const file = async (): Promise<void> => {
    said.replaceChildren(el('p', { class: 'soft' }, 'Filing…'));
    try {
      const { companyName } = capture.verdict;
      const filed = await call(mine, 'POST /api/captures/:id/filing', {
        params: { id: capture.id },
        body: {
          as: as.value,
          ...(chosen.person ? { person: chosen.person } : {}),
          ...(company.value.trim() && company.value.trim() !== companyName
            ? { companyName: company.value.trim() }
            : {}),
          ...(!company.value.trim() ? { company: 'none' } : {}),
          ...(owner.value ? { ownerId: owner.value } : {}),
          ...(tags.value.trim() ? { tags: split(tags.value) } : {}),
          ...(note.value.trim() ? { note: note.value.trim() } : {}),
          ...dealInput(),
          nextMove: readMove(),
        },
      });
      const parts = [
        filed.person.name,
        filed.company?.name,
        filed.lead && `lead “${filed.lead.name}”`,
        filed.deal && `deal “${filed.deal.name}”`,
      ];
      show(
        el('h1', {}, 'Filed'),
        el('p', {}, parts.filter(Boolean).join(', ')),
        el(
          'a',
          { href: `${mine.server}/people/${filed.person.id}`, target: '_blank', rel: 'noreferrer' },
          'Open the dossier',
        ),
        el('div', { class: 'foot' }, el('button', { click: close }, 'Close')),
      );
    } catch (error) {
      said.replaceChildren(tellProblem(error));
    }
  };
  const form = el(
    'form',
    {},
    el('h1', {}, capture.from),
    verdictLines(capture, chosen),
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
    el('h2', {}, 'What we read'),
    ...capture.claims.map((claim) => claimLine(mine, claim)),
    capture.claims.length ? null : el('p', { class: 'soft' }, 'Nothing was read from this page.'),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill' }, 'File it'),
      el('button', { type: 'button', click: () => void start() }, 'Read again'),
      el('button', { type: 'button', click: close }, 'Close'),
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
  show(form);
  note.focus();
}

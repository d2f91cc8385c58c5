import { countedPlainly } from '@emporikon/core/people/counts';
import type { CaptureDetail } from '@emporikon/contract/captures';
import { el, labelled, select } from './dom';
import { call } from './server';
import { close, leaveNothing, show, split } from './sheet';
import type { Account } from './store';

const WORDS = { same: 'in your records', maybe: 'maybe known', new: 'new' } as const;

/** The sheet of a list: who of them we know, and filing several in one go, each with its own result. */
export function fileList(mine: Account, capture: CaptureDetail): void {
  const tags = el('input', { name: 'tags', placeholder: 'separated by commas' });
  const progress = el('progress', { max: '1', value: '0', hidden: true, 'aria-label': 'Progress' });
  const said = el('p', { role: 'status' });
  const rows = capture.listed.map((one, index) => {
    const box = el('input', { type: 'checkbox', value: String(index), 'aria-label': `Choose ${one.name}` });
    const result = el(
      'span',
      { class: one.verdict },
      one.verdict === 'same' && one.owner ? `in your records, ${one.owner}’s` : WORDS[one.verdict],
    );
    const line = el(
      'li',
      {},
      el('label', {}, box, ` ${one.name} `),
      el('div', { class: 'soft' }, [one.jobTitle, one.companyName].filter(Boolean).join(', ')),
      result,
    );
    return { box, result, line, one, index };
  });
  const words = capture.listed.map((one): string => WORDS[one.verdict]);
  /** What stands beside each name on the page; said again as soon as one is filed. */
  const mark = (): void =>
    void chrome.runtime.sendMessage({
      type: 'mark',
      people: capture.listed.map((one, at) => ({ name: one.name, url: one.url, words: words[at] })),
    });
  mark();
  const as = select(
    'as',
    [
      ['person', 'people only'],
      ['lead', 'a lead each'],
    ],
    'person',
  );
  const owner = select('owner', [['', 'me']]);
  const list = select('list', [['', 'none']]);
  void Promise.all([call(mine, 'GET /api/users'), call(mine, 'GET /api/lists')]).then(
    ([users, lists]) => {
      owner.append(...users.items.map(({ id, name }) => el('option', { value: id }, name)));
      list.append(...lists.items.map(({ id, name }) => el('option', { value: id }, name)));
    },
    () => null,
  );
  const file = async (): Promise<void> => {
    const chosen = rows.filter((row) => row.box.checked);
    progress.hidden = false;
    progress.max = chosen.length;
    progress.value = 0;
    let filed = 0;
    for (const row of chosen) {
      try {
        const { results } = await call(mine, 'POST /api/captures/:id/listed', {
          params: { id: capture.id },
          body: {
            rows: [row.index],
            as: as.value,
            tags: split(tags.value),
            ...(owner.value ? { ownerId: owner.value } : {}),
            ...(list.value ? { listId: list.value } : {}),
          },
        });
        const [one] = results;
        if (one?.outcome === 'filed' || one?.outcome === 'known') {
          filed++;
          words[row.index] = WORDS.same;
          mark();
          leaveNothing(null);
        }
        row.result.textContent = one?.outcome === 'filed' ? 'filed' : (one?.reason ?? 'was not filed');
        row.box.checked = false;
      } catch (error) {
        row.result.textContent = error instanceof Error ? error.message : 'was not filed';
      }
      progress.value++;
    }
    said.textContent = `${filed} of ${chosen.length} filed.`;
  };
  const all = el('button', { type: 'button' }, 'All who are new');
  all.addEventListener('click', () => {
    for (const row of rows) row.box.checked = row.one.verdict === 'new';
  });
  const form = el(
    'form',
    {},
    el('h1', {}, countedPlainly(rows.length, 'person', 'people')),
    all,
    el('ul', {}, ...rows.map((row) => row.line)),
    el(
      'div',
      { class: 'two' },
      labelled('File as', as),
      labelled('Owner', owner),
      labelled('List', list),
      labelled('Tags', tags),
    ),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill' }, 'File the chosen'),
      el('button', { type: 'button', click: () => void close() }, 'Close'),
    ),
    progress,
    said,
  );
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    void file();
  });
  leaveNothing(capture.state === 'waiting' ? { mine, id: capture.id } : null);
  show(form);
  all.focus();
}

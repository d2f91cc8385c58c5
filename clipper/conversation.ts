import { countedPlainly } from '@emporikon/core/people/counts';
import type { CaptureDetail } from '@emporikon/contract/captures';
import { el } from './dom';
import { call } from './server';
import { close, leaveNothing, show, tellProblem } from './sheet';
import type { Account } from './store';
import { whoLines } from './who';

const count = (of: number): string => (of === 1 ? 'The message is' : `${countedPlainly(of, 'message')} are`);

/** The sheet of a thread: what is said in it, and filing what the ledger does not have yet. */
export function fileConversation(mine: Account, capture: CaptureDetail): void {
  const said = capture.page?.conversation ?? [];
  const fresh = said.filter((one) => !one.filed).length;
  const status = el('div', { role: 'status' });
  let chosen: string | null = null;
  const file = async (): Promise<void> => {
    try {
      const { person } = await call(mine, 'POST /api/captures/:id/filing', {
        params: { id: capture.id },
        body: chosen ? { person: chosen } : {},
      });
      leaveNothing(null);
      status.replaceChildren(el('p', { class: 'same' }, `${count(fresh)} in the ledger of ${person.name}.`));
      button.disabled = true;
    } catch (error) {
      status.replaceChildren(tellProblem(error));
    }
  };
  const button = el(
    'button',
    { class: 'fill', click: () => void file() },
    `File ${countedPlainly(fresh, 'message')}`,
  );
  const done = capture.state === 'filed' || fresh === 0;
  show(
    el('h1', {}, capture.from),
    whoLines(capture, (person) => (chosen = person)),
    el(
      'p',
      { class: 'soft' },
      `${countedPlainly(said.length, 'message')}, ${said.length - fresh} in the ledger already.`,
    ),
    el(
      'ol',
      {},
      ...said.map((one) =>
        el(
          'li',
          {},
          el('b', {}, one.from),
          el('span', { class: 'soft' }, one.filed ? ' · filed' : ''),
          el('div', {}, one.text),
        ),
      ),
    ),
    el(
      'div',
      { class: 'foot' },
      done ? el('p', { class: 'same' }, 'All of it is filed.') : button,
      el('button', { click: () => void close() }, 'Close'),
    ),
    status,
  );
  if (done) return;
  leaveNothing({ mine, id: capture.id });
  button.focus();
}

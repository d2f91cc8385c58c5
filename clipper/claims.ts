import type { Claim } from '@emporikon/contract/captures';
import { FIELD_NAMES } from '@emporikon/core/reading/types';
import { el } from './dom';
import { call } from './server';
import type { Account } from './store';

const NAMES: Record<string, string> = FIELD_NAMES;

/** One claim, to be corrected in its place or refused. */
export function claimLine(mine: Account, claim: Claim): HTMLElement {
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
  const words = (): string => (line.classList.contains('out') ? 'Restore' : 'Reject');
  const refuse = el(
    'button',
    { type: 'button', class: 'word', 'aria-label': `Reject ${claim.value}` },
    words(),
  );
  refuse.addEventListener('click', () => {
    const out = line.classList.toggle('out');
    refuse.textContent = words();
    void patch({ fate: out ? 'rejected' : 'proposed' });
  });
  line.append(el('span', { class: 'soft' }, NAMES[claim.field] ?? claim.field), input, refuse, said);
  return line;
}

import { el } from './dom';
import { forget, kept } from './store';

/** What was clipped and is not sent yet: how much waits, and what was refused with the reason, to be dropped by hand. */
export async function fillWaiting(place: HTMLElement): Promise<void> {
  const all = await kept();
  const refused = all.filter((one) => one.problem);
  const waiting = all.length - refused.length;
  place.replaceChildren(
    ...(waiting
      ? [
          el(
            'p',
            { class: 'soft' },
            `${waiting} clipped ${waiting === 1 ? 'page waits' : 'pages wait'} to be sent.`,
          ),
        ]
      : []),
    ...refused.map((one) => {
      const line = el('p', {}, `${one.title} could not be sent: ${one.problem ?? ''} `);
      const drop = async (): Promise<void> => {
        await forget(one.id);
        line.remove();
      };
      line.append(el('button', { type: 'button', class: 'word', click: () => void drop() }, 'drop it'));
      return line;
    }),
  );
}

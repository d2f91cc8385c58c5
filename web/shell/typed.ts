/** What was typed into the fields of a page, kept over a reload of that page in this tab. */
const KEY = 'emporikon-typed';
const [TRIES, PAUSE_MS] = [40, 100];

type Field = HTMLInputElement | HTMLTextAreaElement;
interface Typed {
  path: string;
  fields: { name: string; value: string }[];
}

/** A list to choose from shows its choice in a field of its own, which is not typed into. */
const isKept = (field: Field): boolean =>
  !field.closest('.v-select') &&
  !(
    field instanceof HTMLInputElement &&
    ['password', 'file', 'checkbox', 'radio', 'button'].includes(field.type)
  );

const fieldsOfPage = (): Field[] => [...document.querySelectorAll<Field>('input, textarea')].filter(isKept);

/** How a field is found again: by what it is called, and which of that name it is. */
function namesOf(fields: readonly Field[]): string[] {
  const counts = new Map<string, number>();
  return fields.map((field) => {
    const name = field.getAttribute('aria-label') ?? field.labels?.[0]?.textContent?.trim() ?? field.name;
    const count = (counts.get(name) ?? 0) + 1;
    counts.set(name, count);
    return `${name}#${count}`;
  });
}

/** Keeps what stands in the fields of this page. */
export function keepTyped(): void {
  const fields = fieldsOfPage();
  const names = namesOf(fields);
  const typed: Typed = {
    path: location.pathname,
    fields: fields.flatMap((field, at) =>
      field.value ? [{ name: names[at] ?? '', value: field.value }] : [],
    ),
  };
  sessionStorage.setItem(KEY, JSON.stringify(typed));
}

/** Puts back what was kept, once the page shows the fields it belongs to. */
export function restoreTyped(): void {
  const kept = sessionStorage.getItem(KEY);
  if (!kept) return;
  sessionStorage.removeItem(KEY);
  const { path, fields } = JSON.parse(kept) as Typed;
  if (path !== location.pathname) return;
  const waiting = new Map(fields.map((field) => [field.name, field.value]));
  let tries = 0;
  const put = (): void => {
    const here = fieldsOfPage();
    for (const [at, name] of namesOf(here).entries()) {
      const field = here[at];
      const value = waiting.get(name);
      if (!field || value === undefined) continue;
      waiting.delete(name);
      if (field.value === value) continue;
      field.value = value;
      field.dispatchEvent(new Event('input', { bubbles: true }));
    }
    if (waiting.size && ++tries < TRIES) setTimeout(put, PAUSE_MS);
  };
  put();
}

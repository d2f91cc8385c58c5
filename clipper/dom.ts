type Child = Node | string | null | undefined | false;

/** A small way to build elements; text is always text. */
export function el<Tag extends keyof HTMLElementTagNameMap>(
  tag: Tag,
  attributes: Record<string, string | boolean | ((event: Event) => void)> = {},
  ...children: Child[]
): HTMLElementTagNameMap[Tag] {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) {
    if (typeof value === 'function') element.addEventListener(name, value);
    else if (typeof value === 'string') element.setAttribute(name, value);
    else if (value) element.setAttribute(name, '');
  }
  for (const child of children) if (child) element.append(child);
  return element;
}

export const labelled = (text: string, control: HTMLElement): HTMLLabelElement =>
  el('label', {}, text, control);

export const select = (
  name: string,
  options: readonly (readonly [string, string])[],
  chosen = '',
): HTMLSelectElement => {
  const element = el('select', { name }, ...options.map(([value, text]) => el('option', { value }, text)));
  element.value = chosen;
  return element;
};

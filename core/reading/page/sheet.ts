import type { Layout } from './layout';
import type { Outline } from './outline';

/** What the words of a page are read from. */
export interface Sheet {
  layout: Layout;
  outline: Outline;
  url: string;
  /** The registrable domain the page stands at; null when nobody knows. */
  host: string | null;
}

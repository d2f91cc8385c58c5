import type { Config } from '../../config';
import { openDirectory } from './directory';
import { openFinder } from './finder';
import { openRegister } from './register';
import type { LookUpSource } from './source';

const OPEN = { register: openRegister, finder: openFinder, directory: openDirectory };

/** The sources that have an address in the settings. */
export const openLookUps = (config: Config['lookUps']): LookUpSource[] =>
  (Object.keys(OPEN) as (keyof typeof OPEN)[]).flatMap((name) => {
    const { url, key } = config[name];
    return url ? [OPEN[name](url.replace(/\/+$/, ''), key)] : [];
  });

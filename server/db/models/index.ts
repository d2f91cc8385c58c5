import type { Sequelize } from 'sequelize';
import { defineCaptureModels } from './captures';
import { defineDealModels } from './deals';
import { defineLedgerModels } from './ledger';
import { definePeopleModels } from './people';
import { defineUserModels } from './users';

export function defineModels(sequelize: Sequelize): void {
  defineUserModels(sequelize);
  definePeopleModels(sequelize);
  defineCaptureModels(sequelize);
  defineDealModels(sequelize);
  defineLedgerModels(sequelize);
}

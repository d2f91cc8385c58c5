import type { Sequelize } from 'sequelize';
import { defineCallModels } from './calls';
import { defineCaptureModels } from './captures';
import { defineFieldModels } from './fields';
import { defineHostModels } from './hosts';
import { defineFormModels } from './forms';
import { defineImportModels } from './imports';
import { defineLookAlikeModels } from './lookAlikes';
import { defineLookUpModels } from './lookUps';
import { defineMailboxModels } from './mailboxes';
import { defineDealModels } from './deals';
import { defineLedgerModels } from './ledger';
import { defineOutboxModels } from './outbox';
import { definePeopleModels } from './people';
import { definePipelineModels } from './pipelines';
import { defineQualifyingModels } from './qualifying';
import { defineRelationModels } from './relations';
import { defineUserModels } from './users';

export function defineModels(sequelize: Sequelize): void {
  defineUserModels(sequelize);
  definePeopleModels(sequelize);
  defineCaptureModels(sequelize);
  defineDealModels(sequelize);
  defineLedgerModels(sequelize);
  defineFieldModels(sequelize);
  defineHostModels(sequelize);
  defineCallModels(sequelize);
  defineFormModels(sequelize);
  defineImportModels(sequelize);
  defineMailboxModels(sequelize);
  defineLookAlikeModels(sequelize);
  defineLookUpModels(sequelize);
  defineQualifyingModels(sequelize);
  definePipelineModels(sequelize);
  defineRelationModels(sequelize);
  defineOutboxModels(sequelize);
}

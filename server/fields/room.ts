import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { keepTagsJob } from './keepTags';
import { fieldHandlers } from './routes';

export const fields: Room = {
  name: 'fields',
  routes: [fieldHandlers],
  jobs: [keepTagsJob],
  tables: [
    ...plain('ground', 'tag_counts'),
    ...plain('setting', 'custom_fields', 'field_mappings', 'lists'),
    {
      table: 'list_members',
      role: 'part',
      refers: [{ column: 'person_id', to: 'people', unique: ['list_id'] }],
      erase: 'delete',
      export: true,
    },
  ],
};

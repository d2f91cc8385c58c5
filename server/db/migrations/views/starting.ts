/** Views that every organisation begins with: kind, name, query. */
export const STARTING_VIEWS: readonly (readonly [kind: string, name: string, query: object])[] = [
  [
    'person',
    'Spoken to today',
    {
      kind: 'person',
      filter: { all: [{ field: 'lastSpokenTo', op: 'in', value: { away: 0, unit: 'day' } }] },
      groups: [],
      order: [{ field: 'lastSpokenTo', direction: 'desc' }],
      totals: [],
      columns: [
        'fullName',
        'jobTitle',
        'companyName',
        'lastSpokenTo',
        'nextMoveDue',
        'openDealsMinor',
        'owner',
      ],
    },
  ],
  [
    'person',
    'Going quiet',
    {
      kind: 'person',
      filter: {
        all: [
          { field: 'standing', op: 'is', value: ['prospect', 'customer'] },
          { field: 'lastSpokenTo', op: 'before', value: { away: -30, unit: 'day' } },
        ],
      },
      groups: [],
      order: [{ field: 'lastSpokenTo', direction: 'asc' }],
      totals: [{ how: 'sum', field: 'openDealsMinor' }],
      columns: [
        'fullName',
        'jobTitle',
        'companyName',
        'lastSpokenTo',
        'nextMoveDue',
        'openDealsMinor',
        'owner',
      ],
    },
  ],
  [
    'person',
    'No next move',
    {
      kind: 'person',
      filter: {
        all: [
          { field: 'standing', op: 'is', value: ['prospect', 'customer'] },
          { field: 'nextMoveDue', op: 'empty' },
        ],
      },
      groups: [],
      order: [{ field: 'lastSpokenTo', direction: 'asc' }],
      totals: [{ how: 'sum', field: 'openDealsMinor' }],
      columns: [
        'fullName',
        'jobTitle',
        'companyName',
        'lastSpokenTo',
        'nextMoveDue',
        'openDealsMinor',
        'owner',
      ],
    },
  ],
  [
    'person',
    'By owner',
    {
      kind: 'person',
      filter: { all: [] },
      groups: [{ field: 'owner' }],
      order: [{ field: 'fullName', direction: 'asc' }],
      totals: [{ how: 'sum', field: 'openDealsMinor' }],
      columns: ['fullName', 'jobTitle', 'companyName', 'standing', 'lastSpokenTo', 'nextMoveDue'],
    },
  ],
  [
    'person',
    'New this week',
    {
      kind: 'person',
      filter: { all: [{ field: 'createdAt', op: 'in', value: { unit: 'week', shift: 0 } }] },
      groups: [],
      order: [{ field: 'createdAt', direction: 'desc' }],
      totals: [],
      columns: ['fullName', 'jobTitle', 'companyName', 'standing', 'source', 'createdAt', 'owner'],
    },
  ],
  [
    'person',
    'Birthdays ahead',
    {
      kind: 'person',
      filter: {
        all: [
          {
            field: 'birthday',
            op: 'between',
            value: [
              { away: 0, unit: 'day' },
              { away: 30, unit: 'day' },
            ],
          },
        ],
      },
      groups: [],
      order: [{ field: 'birthday', direction: 'asc' }],
      totals: [],
      columns: ['fullName', 'birthday', 'companyName', 'standing', 'owner'],
    },
  ],
  [
    'company',
    'With open deals',
    {
      kind: 'company',
      filter: { all: [{ field: 'openDeals', op: 'over', value: 0 }] },
      groups: [],
      order: [{ field: 'openDealsMinor', direction: 'desc' }],
      totals: [{ how: 'sum', field: 'openDealsMinor' }],
      columns: ['companyName', 'industry', 'country', 'peopleCount', 'openDeals', 'openDealsMinor', 'owner'],
    },
  ],
  [
    'company',
    'By country',
    {
      kind: 'company',
      filter: { all: [] },
      groups: [{ field: 'country' }],
      order: [{ field: 'companyName', direction: 'asc' }],
      totals: [{ how: 'sum', field: 'openDealsMinor' }],
      columns: ['companyName', 'industry', 'employees', 'openDealsMinor', 'owner'],
    },
  ],
  [
    'company',
    'No next move',
    {
      kind: 'company',
      filter: {
        all: [
          { field: 'openDeals', op: 'over', value: 0 },
          { field: 'nextMoveDue', op: 'empty' },
        ],
      },
      groups: [],
      order: [{ field: 'openDealsMinor', direction: 'desc' }],
      totals: [{ how: 'sum', field: 'openDealsMinor' }],
      columns: ['companyName', 'industry', 'lastSpokenTo', 'openDealsMinor', 'owner'],
    },
  ],
  [
    'lead',
    'New this week',
    {
      kind: 'lead',
      filter: { all: [{ field: 'createdAt', op: 'in', value: { unit: 'week', shift: 0 } }] },
      groups: [],
      order: [{ field: 'createdAt', direction: 'desc' }],
      totals: [],
      columns: ['title', 'fullName', 'companyName', 'status', 'source', 'createdAt', 'owner'],
    },
  ],
  [
    'lead',
    'No next move',
    {
      kind: 'lead',
      filter: {
        all: [
          { field: 'status', op: 'is', value: ['new', 'working', 'qualified'] },
          { field: 'nextMoveDue', op: 'empty' },
        ],
      },
      groups: [],
      order: [{ field: 'createdAt', direction: 'asc' }],
      totals: [],
      columns: ['title', 'fullName', 'companyName', 'status', 'source', 'createdAt', 'owner'],
    },
  ],
  [
    'lead',
    'By source',
    {
      kind: 'lead',
      filter: { all: [{ field: 'status', op: 'is', value: ['new', 'working', 'qualified'] }] },
      groups: [{ field: 'source' }],
      order: [{ field: 'createdAt', direction: 'desc' }],
      totals: [],
      columns: ['title', 'fullName', 'companyName', 'status', 'source', 'createdAt', 'owner'],
    },
  ],
  [
    'deal',
    'Closing this month',
    {
      kind: 'deal',
      filter: {
        all: [
          { field: 'status', op: 'is', value: ['open'] },
          { field: 'expectedClose', op: 'in', value: { unit: 'month', shift: 0 } },
        ],
      },
      groups: [],
      order: [{ field: 'expectedClose', direction: 'asc' }],
      totals: [{ how: 'sum', field: 'amountMinor' }],
      columns: ['title', 'companyName', 'stage', 'amountMinor', 'expectedClose', 'nextMoveDue', 'owner'],
    },
  ],
  [
    'deal',
    'No next move',
    {
      kind: 'deal',
      filter: {
        all: [
          { field: 'status', op: 'is', value: ['open'] },
          { field: 'nextMoveDue', op: 'empty' },
        ],
      },
      groups: [],
      order: [{ field: 'amountMinor', direction: 'desc' }],
      totals: [{ how: 'sum', field: 'amountMinor' }],
      columns: ['title', 'companyName', 'stage', 'amountMinor', 'expectedClose', 'nextMoveDue', 'owner'],
    },
  ],
  [
    'deal',
    'By owner',
    {
      kind: 'deal',
      filter: { all: [{ field: 'status', op: 'is', value: ['open'] }] },
      groups: [{ field: 'owner' }],
      order: [{ field: 'amountMinor', direction: 'desc' }],
      totals: [{ how: 'sum', field: 'amountMinor' }],
      columns: ['title', 'companyName', 'stage', 'amountMinor', 'expectedClose', 'nextMoveDue'],
    },
  ],
  [
    'deal',
    'Past their close date',
    {
      kind: 'deal',
      filter: {
        all: [
          { field: 'status', op: 'is', value: ['open'] },
          { field: 'expectedClose', op: 'before', value: { away: 0, unit: 'day' } },
        ],
      },
      groups: [],
      order: [{ field: 'expectedClose', direction: 'asc' }],
      totals: [{ how: 'sum', field: 'amountMinor' }],
      columns: ['title', 'companyName', 'stage', 'amountMinor', 'expectedClose', 'nextMoveDue', 'owner'],
    },
  ],
  [
    'task',
    'Due this week',
    {
      kind: 'task',
      filter: {
        all: [
          { field: 'done', op: 'is', value: false },
          { field: 'due', op: 'in', value: { unit: 'week', shift: 0 } },
        ],
      },
      groups: [],
      order: [{ field: 'due', direction: 'asc' }],
      totals: [],
      columns: ['title', 'taskKind', 'due', 'fullName', 'companyName', 'priority', 'owner'],
    },
  ],
  [
    'task',
    'Overdue',
    {
      kind: 'task',
      filter: {
        all: [
          { field: 'done', op: 'is', value: false },
          { field: 'due', op: 'before', value: { away: 0, unit: 'day' } },
        ],
      },
      groups: [{ field: 'owner' }],
      order: [{ field: 'due', direction: 'asc' }],
      totals: [],
      columns: ['title', 'taskKind', 'due', 'fullName', 'companyName', 'priority'],
    },
  ],
];

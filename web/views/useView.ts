import type { QueryField, View } from '@emporikon/contract/queries';
import type { Layout } from '@emporikon/core/query/layout';
import { registryWith } from '@emporikon/core/query/registry/index';
import type { Filter, KindSpec, Query, Registry } from '@emporikon/core/query/types';
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { VIEWED, type ViewedKind } from './kinds';

const BLANK: Record<ViewedKind, string[]> = {
  person: ['fullName', 'jobTitle', 'companyName', 'lastSpokenTo', 'nextMoveDue', 'owner'],
  company: ['companyName', 'industry', 'country', 'openDealsMinor', 'owner'],
  lead: ['title', 'fullName', 'companyName', 'status', 'source', 'owner'],
  deal: ['title', 'companyName', 'stage', 'amountMinor', 'expectedClose', 'owner'],
  task: ['title', 'due', 'fullName', 'companyName', 'owner'],
  project: ['title', 'stage', 'companyName', 'dueOn', 'progress', 'owner'],
  case: ['title', 'urgency', 'fullName', 'companyName', 'solveBy', 'owner'],
  entry: ['headline', 'entryKind', 'side', 'fullName', 'at', 'author'],
  capture: ['subject', 'captureKind', 'state', 'tone', 'receivedAt'],
};
type Draft = Required<Pick<Query, 'kind' | 'groups' | 'order' | 'totals' | 'columns'>> & {
  conditions: Filter[];
  layout: Layout;
};

const asDraft = (query: Query, layout: Layout = { as: 'table' }): Draft => {
  const { kind, filter, groups = [], order = [], totals = [], columns = [] } = query;
  const conditions = filter === undefined ? [] : 'all' in filter ? [...filter.all] : [filter];
  return { kind, conditions, groups, order, totals, columns, layout };
};
const asQuery = ({ conditions, layout: _layout, ...rest }: Draft): Query => ({
  ...rest,
  filter: { all: conditions },
});

/** A view that stands in the address with what was changed of it, until that is saved or taken back. */
export interface OpenView {
  views: ShallowRef<View[]>;
  view: ShallowRef<View | null>;
  draft: Ref<Draft | null>;
  query: ComputedRef<Query | null>;
  isChanged: ComputedRef<boolean>;
  fields: ShallowRef<ReadonlyMap<string, QueryField>>;
  spec: ShallowRef<KindSpec | null>;
  registry: ShallowRef<Registry | null>;
  error: Ref<string>;
  change: (patch: Partial<Draft>) => void;
  reset: () => void;
  load: () => Promise<void>;
}

/** The address says what was changed in as few letters as JSON does. */
const readDraft = (text: unknown): Draft | null => {
  if (typeof text !== 'string' || !text) return null;
  try {
    const read = JSON.parse(text) as Draft;
    return Array.isArray(read.conditions) ? { ...read, layout: read.layout ?? { as: 'table' } } : null;
  } catch {
    return null;
  }
};

export function useView(kind: ViewedKind): OpenView {
  const route = useRoute();
  const router = useRouter();
  const views = shallowRef<View[]>([]);
  const view = shallowRef<View | null>(null);
  const draft = ref<Draft | null>(null) as Ref<Draft | null>;
  const fields = shallowRef<ReadonlyMap<string, QueryField>>(new Map());
  const spec = shallowRef<KindSpec | null>(null);
  const registry = shallowRef<Registry | null>(null);
  const error = ref('');
  const query = computed(() => draft.value && asQuery(draft.value));
  const saved = computed(() => (view.value ? asDraft(view.value.query as Query, view.value.layout) : null));
  const isChanged = computed(
    () => draft.value !== null && JSON.stringify(draft.value) !== JSON.stringify(saved.value),
  );

  const show = (): void => {
    const id = route.params.view;
    view.value = views.value.find((one) => one.id === id) ?? null;
    const own = readDraft(route.query.changed);
    draft.value = own ?? saved.value ?? { ...asDraft({ kind, columns: BLANK[kind] }) };
    if (view.value)
      void api('PUT /api/views/:id/last', { params: { id: view.value.id } }).catch(() => undefined);
  };

  async function load(): Promise<void> {
    try {
      const [known, asked] = await Promise.all([
        api('GET /api/views', { query: { kind } }),
        fields.value.size ? null : api('GET /api/queries/fields', { query: { kind } }),
      ]);
      if (asked) {
        fields.value = new Map(asked.fields.map((field) => [field.key, field]));
        const own = asked.fields.map(({ isReckoned, ...field }) => ({
          ...field,
          ...(isReckoned ? { isReckoned } : {}),
        }));
        registry.value = registryWith({ fields: { [kind]: own } });
        spec.value = registry.value[kind];
      }
      views.value = known.items;
      error.value = '';
      const id = route.params.view;
      const isBlank = id === 'new';
      const wanted =
        known.items.find((one) => one.id === id) ??
        (isBlank ? null : (known.items.find((one) => one.id === known.last) ?? known.items[0]));
      if (wanted && wanted.id !== id) await router.replace({ path: `${VIEWED[kind].views}/${wanted.id}` });
      else show();
    } catch (problem) {
      error.value = wordsOf(problem);
    }
  }

  /** Where it was changed back to what is saved, nothing stands in the address. */
  function change(patch: Partial<Draft>): void {
    if (!draft.value) return;
    draft.value = { ...draft.value, ...patch };
    void router.replace({
      query: { ...route.query, changed: isChanged.value ? JSON.stringify(draft.value) : undefined },
    });
  }
  const reset = (): void => {
    draft.value = saved.value ?? asDraft({ kind, columns: BLANK[kind] });
    void router.replace({ query: { ...route.query, changed: undefined } });
  };

  watch(
    () => route.params.view,
    (id) => {
      if (typeof id === 'string' && views.value.length && route.path.startsWith(VIEWED[kind].views)) show();
      else if (route.path === VIEWED[kind].views) void load();
    },
  );
  void load();
  return { views, view, draft, query, isChanged, fields, spec, registry, error, change, reset, load };
}

import { ref, watch, type Ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';

/** What several fields of a page changed since the address was last written. */
let pending: Record<string, string | undefined> | null = null;

/**
 * A filter or an order of a list that stands in the address, so that the way back, a reload and a link that is passed on
 * show the same.
 * @param otherwise what holds while the address says nothing
 */
export function useQueryRef<Value extends string>(name: string, otherwise: Value): Ref<Value> {
  const route = useRoute();
  const router = useRouter();
  /** A page that is being left does not write into the address of the next; two places may share one page. */
  const pageOf = (): unknown => route.matched.at(-1)?.components?.default;
  const page = pageOf();
  const said = (): Value => {
    const value = route.query[name];
    return (typeof value === 'string' ? value : otherwise) as Value;
  };
  const value = ref(said()) as Ref<Value>;
  watch(value, (next) => {
    if (pageOf() !== page || next === said()) return;
    const isFirst = pending === null;
    pending = { ...pending, [name]: next === otherwise ? undefined : next };
    if (isFirst)
      queueMicrotask(() => {
        const query = { ...route.query, ...pending };
        pending = null;
        void router.replace({ query });
      });
  });
  watch(said, (next) => {
    if (pageOf() === page && pending === null) value.value = next;
  });
  return value;
}

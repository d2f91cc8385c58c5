import type { DealDetail } from '@emporikon/contract/deals';
import { totalsOf, type Charged, type Totals } from '@emporikon/core/lifecycle/lines';
import { minorOf } from '@emporikon/core/ledger/sum';
import { computed, ref, watch } from 'vue';
import { api, ApiProblem } from '../shell/api';
import { amountText } from '../shell/format';
import { useFetched } from '../shell/live';
import { useLeaveGuard } from '../shell/useDraft';
import { useUndo } from '../shell/undo';

interface Draft {
  productId: string | null;
  name: string;
  quantity: string;
  price: string;
  discountPercent: string;
  taxPercent: string;
  charged: Charged;
  periods: number;
}

/**
 * The lines of a deal while they are edited: compared with the deal as it was when they were first touched, whatever live
 * updates bring.
 * @param changed is called once the deal is another
 */
export function useLines(deal: () => DealDetail, changed: () => void) {
  const undo = useUndo();
  const draft = ref<Draft[]>([]);
  const isTouched = ref(false);
  const isBusy = ref(false);
  const { data: products } = useFetched(
    () => api('GET /api/products'),
    ['products', 'prices', 'price_lists'],
  );
  const offered = computed(() => (products.value?.items ?? []).filter((item) => item.active));
  /** The deal as it was when the lines were first touched; a change of the deal that is not of its lines is no clash. */
  let began = { version: deal().version, lines: JSON.stringify(deal().lines) };
  const clash = ref<DealDetail | null>(null);
  watch(isTouched, (touched) => {
    if (touched) began = { version: deal().version, lines: JSON.stringify(deal().lines) };
  });
  const { isAsking, answer } = useLeaveGuard(() => isTouched.value);
  watch(
    deal,
    (now) => {
      if (!isTouched.value)
        draft.value = now.lines.map(({ id: _id, netMinor: _net, unitMinor, ...line }) => ({
          ...line,
          price: amountText(unitMinor, now.currency),
        }));
    },
    { immediate: true },
  );

  /** The lines as they would be saved; null while one of them is not whole. */
  const lines = computed(() => {
    try {
      return draft.value.map(({ price, ...line }) => ({
        ...line,
        quantity: line.quantity.replace(',', '.'),
        discountPercent: line.discountPercent.replace(',', '.'),
        taxPercent: line.taxPercent.replace(',', '.'),
        unitMinor: minorOf(price, deal().currency) ?? 0,
      }));
    } catch {
      return null;
    }
  });
  const totals = computed((): Totals | null => {
    try {
      return lines.value && totalsOf(lines.value);
    } catch {
      return null;
    }
  });

  function add(): void {
    isTouched.value = true;
    draft.value.push({
      productId: null,
      name: '',
      quantity: '1',
      price: '',
      discountPercent: '0',
      taxPercent: draft.value.at(-1)?.taxPercent ?? '0',
      charged: 'once',
      periods: 1,
    });
  }

  /** A product brings its name, price, tax and how it is charged. */
  async function take(line: Draft, productId: string): Promise<void> {
    isTouched.value = true;
    const product = offered.value.find((one) => one.id === productId);
    line.productId = product?.id ?? null;
    if (!product) return;
    line.name = product.name;
    line.taxPercent = product.taxPercent;
    line.charged = product.charged;
    if (product.charged === 'month') line.periods = 12;
    try {
      const { unitMinor, rate } = await api('GET /api/products/:id/price', {
        params: { id: product.id },
        query: { currency: deal().currency },
      });
      if (unitMinor !== null) line.price = amountText(unitMinor, deal().currency);
      if (rate) undo.tell({ text: `Price of ${product.name}: ${rate}.`, eventId: null });
    } catch (problem) {
      undo.fail(problem);
    }
  }

  function drop(at: number): void {
    isTouched.value = true;
    draft.value.splice(at, 1);
  }

  async function save(over = began.version): Promise<void> {
    if (!lines.value) return;
    isBusy.value = true;
    try {
      const { eventId } = await api('PUT /api/deals/:id/lines', {
        params: { id: deal().id },
        body: { version: over, lines: lines.value },
      });
      undo.tell({ text: 'The lines are set; the amount is their net.', eventId });
      isTouched.value = false;
      clash.value = null;
      changed();
    } catch (problem) {
      if (!(problem instanceof ApiProblem && problem.isStale)) return undo.fail(problem);
      const now = await api('GET /api/deals/:id', { params: { id: deal().id } });
      if (JSON.stringify(now.lines) === began.lines && over !== now.version) return await save(now.version);
      clash.value = now;
    } finally {
      isBusy.value = false;
    }
  }

  function reset(): void {
    [isTouched.value, clash.value] = [false, null];
    changed();
  }

  return {
    draft,
    totals,
    offered,
    isTouched,
    isBusy,
    clash,
    isAsking,
    answer,
    add,
    take,
    drop,
    save,
    reset,
  };
}

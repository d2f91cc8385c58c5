<script setup lang="ts">
import type { DealDetail } from '@emporikon/contract/deals';
import { CHARGED, totalsOf, type Charged, type Totals } from '@emporikon/core/lifecycle/lines';
import { minorOf } from '@emporikon/core/ledger/sum';
import { computed, ref, watch } from 'vue';
import { api, ApiProblem } from '../shell/api';
import { amountText, money } from '../shell/format';
import { useFetched } from '../shell/live';
import LeaveDialog from '../shell/LeaveDialog.vue';
import { useUndo } from '../shell/undo';
import { useLeaveGuard } from '../shell/useDraft';

/** What they buy, line by line; the amount of the deal is the net of its lines. */
const props = defineProps<{ deal: DealDetail }>();
const emit = defineEmits<{ changed: [] }>();
const undo = useUndo();
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
const WORDS: Record<Charged, string> = { once: 'once', month: 'a month', year: 'a year' };
const draft = ref<Draft[]>([]);
const isTouched = ref(false);
const isBusy = ref(false);
const { data: products } = useFetched(() => api('GET /api/products'), ['products', 'prices', 'price_lists']);
const offered = computed(() => (products.value?.items ?? []).filter((one) => one.active));
/** The deal as it was when the lines were first touched; a change of the deal that is not of its lines is no clash. */
let began = { version: props.deal.version, lines: JSON.stringify(props.deal.lines) };
const clash = ref<DealDetail | null>(null);
watch(isTouched, (touched) => {
  if (touched) began = { version: props.deal.version, lines: JSON.stringify(props.deal.lines) };
});
const { isAsking, answer } = useLeaveGuard(() => isTouched.value);
watch(
  () => props.deal,
  (deal) => {
    if (!isTouched.value)
      draft.value = deal.lines.map(({ id: _id, netMinor: _net, unitMinor, ...line }) => ({
        ...line,
        price: amountText(unitMinor, deal.currency),
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
      unitMinor: minorOf(price, props.deal.currency) ?? 0,
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
      query: { currency: props.deal.currency },
    });
    if (unitMinor !== null) line.price = amountText(unitMinor, props.deal.currency);
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
      params: { id: props.deal.id },
      body: { version: over, lines: lines.value },
    });
    undo.tell({ text: 'The lines are set; the amount is their net.', eventId });
    isTouched.value = false;
    clash.value = null;
    emit('changed');
  } catch (problem) {
    if (!(problem instanceof ApiProblem && problem.isStale)) return undo.fail(problem);
    const now = await api('GET /api/deals/:id', { params: { id: props.deal.id } });
    if (JSON.stringify(now.lines) === began.lines && over !== now.version) return await save(now.version);
    clash.value = now;
  } finally {
    isBusy.value = false;
  }
}

function reset(): void {
  [isTouched.value, clash.value] = [false, null];
  emit('changed');
}
</script>

<template>
  <form class="lines" @submit.prevent="save()" @input="isTouched = true">
    <LeaveDialog :is-asking="isAsking" what="The lines of this deal" @answer="answer" />
    <p v-if="clash" class="clash" role="alert">
      Somebody saved other lines meanwhile:
      <b>{{ clash.lines.map((line) => `${line.quantity} × ${line.name}`).join(', ') || 'none' }}</b>.
      <button type="button" class="word on" @click="reset">Keep theirs</button>
      <button type="button" class="word on" @click="save(clash.version)">Put mine</button>
    </p>
    <div v-if="draft.length" class="scroll">
      <table class="book">
        <thead>
          <tr>
            <th>Product</th>
            <th>Name</th>
            <th class="num">Quantity</th>
            <th class="num">Each, {{ deal.currency }}</th>
            <th class="num">Less %</th>
            <th class="num">Tax %</th>
            <th>Charged</th>
            <th class="num">Net</th>
            <th><span class="d-sr-only">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(line, at) in draft" :key="at">
            <td>
              <select
                class="inline-edit"
                :aria-label="`Product of line ${at + 1}`"
                :value="line.productId ?? ''"
                @change="take(line, ($event.target as HTMLSelectElement).value)"
              >
                <option value="">none of ours</option>
                <option v-for="one in offered" :key="one.id" :value="one.id">{{ one.code }}</option>
              </select>
            </td>
            <td class="name">
              <input
                v-model="line.name"
                class="inline-edit"
                required
                maxlength="200"
                :aria-label="`Name of line ${at + 1}`"
              />
            </td>
            <td class="few">
              <input
                v-model="line.quantity"
                class="inline-edit num"
                inputmode="decimal"
                required
                pattern="[0-9]+([.,][0-9]{1,3})?"
                :aria-label="`Quantity of line ${at + 1}`"
              />
            </td>
            <td class="some">
              <input
                v-model="line.price"
                class="inline-edit num"
                inputmode="decimal"
                required
                :aria-label="`Price of line ${at + 1}`"
              />
            </td>
            <td class="few">
              <input
                v-model="line.discountPercent"
                class="inline-edit num"
                inputmode="decimal"
                required
                pattern="[0-9]{1,3}(\.[0-9]{1,2})?"
                :aria-label="`Discount of line ${at + 1}, per cent`"
              />
            </td>
            <td class="few">
              <input
                v-model="line.taxPercent"
                class="inline-edit num"
                inputmode="decimal"
                required
                pattern="[0-9]{1,3}(\.[0-9]{1,2})?"
                :aria-label="`Tax of line ${at + 1}, per cent`"
              />
            </td>
            <td class="charged">
              <select
                v-model="line.charged"
                class="inline-edit"
                :aria-label="`How line ${at + 1} is charged`"
              >
                <option v-for="one in CHARGED" :key="one" :value="one">{{ WORDS[one] }}</option>
              </select>
              <input
                v-if="line.charged !== 'once'"
                v-model.number="line.periods"
                class="inline-edit num"
                type="number"
                min="1"
                max="1200"
                :aria-label="`For how many ${line.charged}s line ${at + 1}`"
              />
            </td>
            <td class="num">{{ totals ? money(totals.lines[at] ?? 0, deal.currency) : '' }}</td>
            <td>
              <button type="button" class="word" :aria-label="`Remove line ${at + 1}`" @click="drop(at)">
                ×
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-else class="soft">No lines yet. With lines the amount is reckoned, and a quote can be made.</p>
    <div class="foot">
      <button type="button" class="word" @click="add">Add a line</button>
      <template v-if="isTouched">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!totals">Set the lines</v-btn>
        <button type="button" class="word" @click="reset">Leave them as they were</button>
      </template>
      <span v-if="totals && draft.length" class="totals num" role="status">
        net <b>{{ money(totals.netMinor, deal.currency) }}</b><template
          v-for="tax in totals.taxes"
          :key="tax.percent"
        >
          · tax {{ tax.percent }}% {{ money(tax.taxMinor, deal.currency) }}</template
        >
        · with tax <b>{{ money(totals.grossMinor, deal.currency) }}</b><template v-if="totals.monthMinor">
          · {{ money(totals.monthMinor, deal.currency) }} a month</template
        ><template v-if="totals.yearMinor"> · {{ money(totals.yearMinor, deal.currency) }} a year</template>
      </span>
    </div>
  </form>
</template>

<style scoped>
.name .inline-edit {
  min-width: 150px;
}
.few .inline-edit {
  width: 64px;
}
.some .inline-edit {
  width: 96px;
}
.charged {
  white-space: nowrap;
}
.charged .inline-edit {
  width: auto;
}
.charged input.inline-edit {
  width: 64px;
}
.num.inline-edit {
  text-align: right;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  padding-top: 6px;
  min-height: 40px;
}
.totals {
  margin-left: auto;
  white-space: normal;
}
p {
  margin: 0;
}
</style>

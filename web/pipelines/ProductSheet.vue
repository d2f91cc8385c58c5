<script setup lang="ts">
import type { PriceList, Product } from '@emporikon/contract/products';
import { CHARGED, type Charged } from '@emporikon/core/lifecycle/lines';
import { minorOf } from '@emporikon/core/ledger/sum';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import EditCell from '../shell/EditCell.vue';
import { amountText } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { useSave, type Saved } from './useSave';

/** What is sold, a row each, with its price in each list. */
defineProps<{ mayEdit: boolean }>();
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/products'), ['products', 'prices', 'price_lists']);
const save = useSave(load);
const lists = computed(() => (data.value?.lists ?? []).filter((list) => list.active));
const WORDS: Record<Charged, string> = { once: 'once', month: 'a month', year: 'a year' };
const product = ref({ code: '', name: '' });
const list = ref({ name: '', currency: '' });

const valueOf = (event: Event): string => (event.target as HTMLSelectElement).value;
const put = (
  one: Product,
  patch: { code?: string; name?: string; taxPercent?: string; charged?: Charged; active?: boolean },
  version = one.version,
): Promise<Saved> =>
  save(`Changed ${one.name}.`, () =>
    api('PATCH /api/products/:id', { params: { id: one.id }, body: { version, ...patch } }),
  );

function priceOf(one: Product, of: PriceList): string {
  const price = one.prices.find((each) => each.listId === of.id);
  return price ? amountText(price.unitMinor, of.currency) : '';
}

async function putPrice(one: Product, of: PriceList, text: string): Promise<void> {
  try {
    const unitMinor = minorOf(text, of.currency);
    await save(`Price of ${one.name} changed.`, () =>
      api('PUT /api/price-lists/:id/prices/:productId', {
        params: { id: of.id, productId: one.id },
        body: { unitMinor },
      }),
    );
  } catch (problem) {
    undo.fail(problem);
  }
}

async function addProduct(): Promise<void> {
  if (
    (await save(`Added ${product.value.name}.`, () => api('POST /api/products', { body: product.value }))) ===
    true
  )
    product.value = { code: '', name: '' };
}
async function addList(): Promise<void> {
  const body = { name: list.value.name, currency: list.value.currency.toUpperCase() };
  if ((await save(`Added ${body.name}.`, () => api('POST /api/price-lists', { body }))) === true)
    list.value = { name: '', currency: '' };
}
</script>

<template>
  <section>
    <h2>Products and prices</h2>
    <div class="scroll">
      <table v-if="data?.items.length" class="book">
        <thead>
          <tr>
            <th>Code</th>
            <th>Name</th>
            <th class="num">Tax %</th>
            <th>Charged</th>
            <th v-for="one in lists" :key="one.id" class="num">{{ one.name }}, {{ one.currency }}</th>
            <th><span class="d-sr-only">In use</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in data.items" :key="one.id" :class="{ soft: !one.active }">
            <td>
              <EditCell
                class="code"
                :value="one.code"
                :disabled="!mayEdit"
                :label="`Code of ${one.name}`"
                :version="one.version"
                field="code"
                :save="(text, version) => put(one, { code: text }, version)"
              />
            </td>
            <td>
              <EditCell
                class="name"
                :value="one.name"
                :disabled="!mayEdit"
                :label="`Name of ${one.code}`"
                :version="one.version"
                field="name"
                :save="(text, version) => put(one, { name: text }, version)"
              />
            </td>
            <td class="num">
              <EditCell
                class="few"
                inputmode="decimal"
                :value="one.taxPercent"
                :disabled="!mayEdit"
                :label="`Tax of ${one.name}, per cent`"
                :version="one.version"
                field="taxPercent"
                :save="(text, version) => put(one, { taxPercent: text }, version)"
              />
            </td>
            <td>
              <select
                class="inline-edit"
                :value="one.charged"
                :disabled="!mayEdit"
                :aria-label="`How ${one.name} is charged`"
                @change="put(one, { charged: valueOf($event) as Charged })"
              >
                <option v-for="each in CHARGED" :key="each" :value="each">{{ WORDS[each] }}</option>
              </select>
            </td>
            <td v-for="of in lists" :key="of.id" class="num">
              <EditCell
                class="price"
                inputmode="decimal"
                :value="priceOf(one, of)"
                :disabled="!mayEdit"
                :label="`Price of ${one.name} in ${of.name}`"
                :save="(text) => putPrice(one, of, text)"
              />
            </td>
            <td>
              <button v-if="mayEdit" class="word" @click="put(one, { active: !one.active })">
                {{ one.active ? 'retire' : 'take up' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="data && !data.items.length" class="empty">Nothing is sold yet.</p>
    <div v-if="mayEdit" class="adds">
      <form @submit.prevent="addProduct">
        <input
          v-model="product.code"
          class="inline-edit code"
          required
          maxlength="40"
          placeholder="code"
          aria-label="Code of a new product"
        />
        <input
          v-model="product.name"
          class="inline-edit name"
          required
          maxlength="200"
          placeholder="name"
          aria-label="Name of a new product"
        />
        <button class="word" type="submit">Add a product</button>
      </form>
      <form @submit.prevent="addList">
        <input
          v-model="list.name"
          class="inline-edit name"
          required
          maxlength="60"
          placeholder="price list"
          aria-label="Name of a new price list"
        />
        <input
          v-model="list.currency"
          class="inline-edit few"
          required
          pattern="[A-Za-z]{3}"
          maxlength="3"
          placeholder="EUR"
          aria-label="Currency of a new price list"
        />
        <button class="word" type="submit">Add a price list</button>
      </form>
    </div>
  </section>
</template>

<style scoped>
.code {
  width: 90px;
}
.name {
  min-width: 170px;
}
.few {
  width: 64px;
}
.price {
  width: 100px;
}
.num .inline-edit {
  text-align: right;
}
.adds {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 32px;
  padding-top: 8px;
}
.adds form {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.adds .name {
  width: 170px;
}
</style>

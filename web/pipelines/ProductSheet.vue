<script setup lang="ts">
import RetireButton from '../kit/RetireButton.vue';
import { useSession } from '../shell/session';
import PageHead from '../kit/PageHead.vue';
import type { PriceList, Product } from '@emporikon/contract/products';
import { CHARGED, type Charged } from '@emporikon/core/lifecycle/lines';
import { minorOf } from '@emporikon/core/ledger/sum';
import { computed, ref } from 'vue';
import { api } from '../shell/api';
import EditCell from '../kit/EditCell.vue';
import { amountText, money } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import { useSave, type Saved } from './useSave';

/** What is sold, a row each, with its price in each list. */

const session = useSession();
const undo = useUndo();
const { data, load } = useFetched(() => api('GET /api/products'), ['products', 'prices', 'price_lists']);
const save = useSave(load);
const lists = computed(() => (data.value?.lists ?? []).filter((list) => list.active));
const WORDS: Record<Charged, string> = { once: 'Once', month: 'Every month', year: 'Every year' };
const charging = CHARGED.map((value) => ({ value, title: WORDS[value] }));
const product = ref({ code: '', name: '' });
const list = ref({ name: '', currency: '' });

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

/** The price as it is read; a dash where the list has none. */
function shownPrice(one: Product, of: PriceList): string {
  const price = one.prices.find((each) => each.listId === of.id);
  return price ? money(price.unitMinor, of.currency) : '–';
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
  <PageHead
    title="Products and prices"
    help="What you sell, with its price in each price list. A deal’s lines are filled from here."
  />
  <template v-if="!data"><span v-for="n in 8" :key="n" class="ghost"></span></template>
  <div class="scroll" tabindex="0" role="region" aria-label="Products">
    <v-table v-if="data?.items.length" class="book">
      <thead>
        <tr>
          <th>Product</th>
          <th>Code</th>
          <th class="num">Tax %</th>
          <th>Charged</th>
          <th v-for="one in lists" :key="one.id" class="num">{{ one.name }}, {{ one.currency }}</th>
          <th><span class="visually-hidden">In use</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.items" :key="one.id" :class="{ soft: !one.active }">
          <td>
            <EditCell
              :value="one.name"
              :disabled="!session.may('settings.deals')"
              :label="`Name of ${one.code}`"
              :version="one.version"
              field="name"
              :save="(text, version) => put(one, { name: text }, version)"
            />
          </td>
          <td>
            <EditCell
              :value="one.code"
              :disabled="!session.may('settings.deals')"
              :label="`Code of ${one.name}`"
              :version="one.version"
              field="code"
              :save="(text, version) => put(one, { code: text }, version)"
            />
          </td>
          <td class="num">
            <EditCell
              kind="number"
              :value="one.taxPercent"
              :disabled="!session.may('settings.deals')"
              :label="`Tax of ${one.name}, per cent`"
              :version="one.version"
              field="taxPercent"
              :save="(text, version) => put(one, { taxPercent: text.replace(',', '.') }, version)"
            />
          </td>
          <td>
            <EditCell
              kind="choice"
              :value="one.charged"
              :shown="WORDS[one.charged]"
              :options="charging"
              :disabled="!session.may('settings.deals')"
              :label="`How ${one.name} is charged`"
              :version="one.version"
              field="charged"
              :save="(text, version) => put(one, { charged: text as Charged }, version)"
            />
          </td>
          <td v-for="of in lists" :key="of.id" class="num">
            <EditCell
              kind="money"
              :currency="of.currency"
              :value="priceOf(one, of)"
              :shown="shownPrice(one, of)"
              :disabled="!session.may('settings.deals')"
              :label="`Price of ${one.name} in ${of.name}`"
              :save="(text) => putPrice(one, of, text)"
            />
          </td>
          <td>
            <RetireButton
              v-if="session.may('settings.deals')"
              :name="one.name"
              :active="one.active"
              @turn="put(one, { active: $event })"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
  <p v-if="data && !data.items.length" class="empty">No products yet. Add the first one below.</p>
  <div v-if="data && session.may('settings.deals')" class="adds">
    <form @submit.prevent="addProduct">
      <v-text-field v-model="product.name" label="New product" required maxlength="200" />
      <v-text-field v-model="product.code" class="few" label="Code" required maxlength="40" />
      <v-btn class="fill" type="submit">Add a product</v-btn>
    </form>
    <form @submit.prevent="addList">
      <v-text-field v-model="list.name" label="New price list" required maxlength="60" />
      <v-text-field
        v-model="list.currency"
        class="few"
        label="Currency"
        required
        pattern="[A-Za-z]{3}"
        maxlength="3"
        placeholder="EUR"
      />
      <v-btn class="quiet" type="submit">Add a price list</v-btn>
    </form>
  </div>
</template>

<style scoped>
.adds {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(320px, 1fr));
  gap: 12px 40px;
  padding-top: 16px;
}
.adds form {
  display: flex;
  gap: 10px;
  align-items: end;
}
.few {
  flex: 0 0 100px;
}
</style>

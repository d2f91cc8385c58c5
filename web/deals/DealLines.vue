<script setup lang="ts">
import NumberField from '../kit/NumberField.vue';
import type { DealDetail } from '@emporikon/contract/deals';
import { CHARGED, type Charged } from '@emporikon/core/lifecycle/lines';
import { money } from '../shell/format';
import LeaveDialog from '../kit/LeaveDialog.vue';
import { useLines } from './useLines';

/** What they buy, line by line; the amount of the deal is the net of its lines. */
const props = defineProps<{ deal: DealDetail }>();
const emit = defineEmits<{ changed: [] }>();
const WORDS: Record<Charged, string> = { once: 'once', month: 'a month', year: 'a year' };
const { draft, totals, offered, isTouched, isBusy, clash, isAsking, answer, add, take, drop, save, reset } =
  useLines(
    () => props.deal,
    () => emit('changed'),
  );
</script>

<template>
  <form class="lines" @submit.prevent="save()" @input="isTouched = true">
    <LeaveDialog :is-asking="isAsking" what="The lines of this deal" @answer="answer" />
    <p v-if="clash" class="clash" role="alert">
      Somebody else changed these lines in the meantime:
      <b>{{ clash.lines.map((line) => `${line.quantity} × ${line.name}`).join(', ') || 'none' }}</b>.
      <v-btn class="word on" @click="reset">Keep theirs</v-btn>
      <v-btn class="word on" @click="save(clash.version)">Save mine</v-btn>
    </p>
    <div v-if="draft.length" class="scroll">
      <v-table class="book">
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
            <th><span class="visually-hidden">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(line, at) in draft" :key="at">
            <td>
              <v-select
                class="inline-edit"
                :aria-label="`Product of line ${at + 1}`"
                :model-value="line.productId ?? ''"
                :items="[
                  { value: '', title: 'Not in the price list' },
                  ...offered.map((one) => ({ value: one.id, title: one.name })),
                ]"
                @update:model-value="take(line, $event)"
              />
            </td>
            <td class="name">
              <v-text-field
                v-model="line.name"
                class="inline-edit"
                required
                maxlength="200"
                :aria-label="`Name of line ${at + 1}`"
              />
            </td>
            <td class="few">
              <v-text-field
                v-model="line.quantity"
                class="inline-edit num"
                inputmode="decimal"
                required
                pattern="[0-9]+([.,][0-9]{1,3})?"
                :aria-label="`Quantity of line ${at + 1}`"
              />
            </td>
            <td class="some">
              <v-text-field
                v-model="line.price"
                class="inline-edit num"
                inputmode="decimal"
                required
                :aria-label="`Price of line ${at + 1}`"
              />
            </td>
            <td class="few">
              <v-text-field
                v-model="line.discountPercent"
                class="inline-edit num"
                inputmode="decimal"
                required
                pattern="[0-9]{1,3}([.,][0-9]{1,2})?"
                :aria-label="`Discount of line ${at + 1}, per cent`"
              />
            </td>
            <td class="few">
              <v-text-field
                v-model="line.taxPercent"
                class="inline-edit num"
                inputmode="decimal"
                required
                pattern="[0-9]{1,3}([.,][0-9]{1,2})?"
                :aria-label="`Tax of line ${at + 1}, per cent`"
              />
            </td>
            <td class="charged">
              <v-select
                v-model="line.charged"
                class="inline-edit"
                :aria-label="`How line ${at + 1} is charged`"
                :items="CHARGED.map((one) => ({ value: one, title: WORDS[one] }))"
              />
              <NumberField
                v-if="line.charged !== 'once'"
                v-model="line.periods"
                class="inline-edit num"
                :min="1"
                :max="1200"
                :aria-label="`For how many ${line.charged}s line ${at + 1}`"
              />
            </td>
            <td class="num">{{ totals ? money(totals.lines[at] ?? 0, deal.currency) : '' }}</td>
            <td>
              <v-btn class="word" :aria-label="`Remove line ${at + 1}`" @click="drop(at)"> × </v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <p v-else class="soft">No lines yet. With lines the value is calculated and you can make a quote.</p>
    <div class="foot">
      <v-btn class="word" @click="add">Add a line</v-btn>
      <template v-if="isTouched">
        <v-btn class="fill" type="submit" :loading="isBusy" :disabled="!totals">Save lines</v-btn>
        <v-btn class="word" @click="reset">Cancel</v-btn>
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

<script setup lang="ts">
import { api } from '../shell/api';
import { clock, day } from '../shell/format';
import { useFetched } from '../shell/live';
import PhoneButton from './PhoneButton.vue';

const { data, error } = useFetched(() => api('GET /api/calls', { query: { limit: 100 } }), ['calls']);
const { data: line } = useFetched(() => api('GET /api/line'), ['phone_lines']);
const STATES = {
  placing: 'being placed',
  failed: 'nobody was called',
  ringing: 'rings',
  answered: 'on the line',
  ended: 'ended',
  missed: 'missed',
} as const;
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Calls</h1>
      <span v-if="line" class="soft">
        <template v-if="line.exchange === 'none'">No exchange is connected; write a call by hand.</template>
        <template v-else-if="line.exchange === 'down'"
          ><span class="late">The exchange does not answer.</span> Calls made meanwhile arrive when it is
          back.</template
        >
        <template v-else-if="line.number">Your line is {{ line.number }}.</template>
        <template v-else
          >Say in <RouterLink to="/settings" class="quiet-link">Settings</RouterLink> which line is
          yours.</template
        >
      </span>
      <RouterLink class="word" to="/calls/new">Write a call</RouterLink>
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <table v-if="data?.items.length" class="book">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>Number</th>
          <th class="wide">Way</th>
          <th>How it went</th>
          <th><span class="visually-hidden">What to do</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.items" :key="one.id">
          <td class="soft">{{ day(one.startedAt) }} {{ clock(one.startedAt) }}</td>
          <td>
            <RouterLink v-if="one.person" :to="`/people/${one.person.id}`">{{ one.person.name }}</RouterLink>
            <span v-else class="soft">a stranger</span>
          </td>
          <td>
            <PhoneButton
              v-if="one.number"
              :number="one.number"
              :shown="one.written"
              :person-id="one.person?.id"
            />
            <span v-else class="soft">withheld</span>
          </td>
          <td class="wide">{{ one.direction === 'in' ? 'they called' : 'we called' }}</td>
          <td :class="{ late: one.state === 'missed' || one.state === 'failed' }">{{ STATES[one.state] }}</td>
          <td>
            <span v-if="one.saved" class="soft">written</span>
            <RouterLink v-else :to="`/calls/${one.id}`" class="quiet-link">write its sheet</RouterLink>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="data" class="empty">
      No calls yet. When your line rings, the call sheet opens by itself; any phone number you see is a button
      that calls.
    </p>
    <template v-else><span v-for="n in 6" :key="n" class="ghost"></span></template>
  </div>
</template>

<script setup lang="ts">
import type { TriageCard } from '@emporikon/contract/triage';
import { shortDay } from '../shell/format';
import { useTerms } from '../terms/useTerms';

/** Somebody of a pile, with all that is known at a glance. */
defineProps<{ card: TriageCard }>();
const { nameOf } = useTerms();
</script>

<template>
  <article class="sheet" aria-live="polite">
    <h2>
      <RouterLink :to="`/people/${card.id}`">{{ card.name }}</RouterLink>
    </h2>
    <p class="role">
      {{ card.jobTitle
      }}<template v-if="card.company"
        >{{ card.jobTitle ? ' at ' : ''
        }}<RouterLink class="quiet-link" :to="`/companies/${card.company.id}`">{{
          card.company.name
        }}</RouterLink></template
      >
      <span v-if="card.firm" class="soft"> {{ card.firm }}</span>
    </p>
    <dl>
      <template v-if="card.contacts.length"
        ><dt>Contact</dt>
        <dd>{{ card.contacts.join(', ') }}</dd></template
      >
      <template v-if="card.address"
        ><dt>Address</dt>
        <dd>{{ card.address }}</dd></template
      >
      <template v-if="card.background"
        ><dt>Background</dt>
        <dd>{{ card.background }}</dd></template
      >
      <dt>Last said</dt>
      <dd>
        <template v-if="card.last">{{ shortDay(card.last.at) }}, {{ card.last.headline }}</template
        ><span v-else class="soft">Nothing yet</span>
      </dd>
      <template v-if="card.work.length"
        ><dt>Work</dt>
        <dd>{{ card.work.join('; ') }}</dd></template
      >
      <dt>Known</dt>
      <dd>
        <b class="num">{{ card.completeness }}</b> of 100 <span class="soft">complete</span>
      </dd>
      <template v-if="card.tags.length"
        ><dt>Tags</dt>
        <dd>{{ card.tags.join(', ') }}</dd></template
      >
      <dt>Standing</dt>
      <dd>{{ nameOf(card.standingTerm ?? card.standing) }}</dd>
    </dl>
  </article>
</template>

<style scoped>
.sheet {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
  padding: 18px 24px;
  min-height: 260px;
}
.sheet h2 {
  font-size: 24px;
}
.sheet h2 a {
  text-decoration: none;
}
.role {
  margin: 4px 0 12px;
  font-size: 15px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 6px 16px;
  margin: 0;
}
dt {
  color: var(--soft);
  font-size: 12px;
  padding-top: 2px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
@media (max-width: 700px) {
  dl {
    grid-template-columns: 80px 1fr;
  }
}
</style>

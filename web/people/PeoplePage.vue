<script setup lang="ts">
import { ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import PhoneButton from '../calls/PhoneButton.vue';
import SelectionBar from '../lookups/SelectionBar.vue';
import { shownCount } from '../shell/format';
import { useFetched } from '../shell/live';
import { useUndo } from '../shell/undo';
import TickAll from '../shell/TickAll.vue';
import { usePaged } from '../shell/usePaged';

const router = useRouter();
const undo = useUndo();
const q = ref('');
const tag = ref('');
const list = ref('');
const inactive = ref<'without' | 'only'>('without');
const { data: lists } = useFetched(() => api('GET /api/lists'), ['people', 'lists', 'list_members']);
const { items, hasMore, more, error, reload } = usePaged(
  (cursor) =>
    api('GET /api/people', {
      query: {
        cursor,
        q: q.value,
        tag: tag.value || undefined,
        list: list.value || undefined,
        inactive: inactive.value,
        limit: 60,
      },
    }),
  ['people', 'companies', 'contact_points'],
);
const ticked = ref<string[]>([]);
const isAdding = ref(false);
const draft = ref({ fullName: '', email: '', phone: '', companyName: '' });
let timer: ReturnType<typeof setTimeout> | undefined;
watch([q, tag, list, inactive], () => {
  clearTimeout(timer);
  timer = setTimeout(() => void reload(), 120);
});

async function add(): Promise<void> {
  const { fullName, email, phone, companyName } = draft.value;
  try {
    const { person, eventId } = await api('POST /api/people', {
      body: { fullName, email: email || null, phone: phone || null, companyName: companyName || null },
    });
    undo.tell({ text: `Added ${person.fullName}.`, eventId });
    await router.push(`/people/${person.id}`);
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>People</h1>
      <input
        v-model="q"
        type="search"
        class="inline-edit narrow"
        placeholder="narrow by name"
        aria-label="Narrow by name"
      />
      <select v-model="tag" class="inline-edit tag" aria-label="With the tag">
        <option value="">any tag</option>
        <option v-for="one in lists?.tags ?? []" :key="one.tag" :value="one.tag">
          {{ one.tag }} ({{ one.people }})
        </option>
      </select>
      <select v-model="list" class="inline-edit tag" aria-label="On the list">
        <option value="">any list</option>
        <option v-for="one in lists?.items ?? []" :key="one.id" :value="one.id">
          {{ one.name }} ({{ shownCount(one.people) }})
        </option>
      </select>
      <select v-model="inactive" class="inline-edit tag" aria-label="Whether still worked with">
        <option value="without">worked with</option>
        <option value="only">inactive</option>
      </select>
      <RouterLink
        class="word"
        :to="{ path: '/triage', query: { ...(list ? { list } : {}), ...(tag ? { tag } : {}) } }"
        >Triage</RouterLink
      >
      <RouterLink class="word" to="/look-alikes">Look-alikes</RouterLink>
      <RouterLink class="word" to="/imports">Import a table</RouterLink>
      <a class="word" href="/api/people.csv" download>Save as a table</a>
      <button class="word" @click="isAdding = !isAdding">Add a person</button>
    </div>
    <form v-if="isAdding" class="add" @submit.prevent="add">
      <label class="field"
        ><span class="cap">Name</span><input v-model="draft.fullName" required autofocus
      /></label>
      <label class="field"><span class="cap">Email</span><input v-model="draft.email" type="email" /></label>
      <label class="field"
        ><span class="cap">Phone</span><input v-model="draft.phone" type="tel" placeholder="+44 …"
      /></label>
      <label class="field"><span class="cap">Company</span><input v-model="draft.companyName" /></label>
      <v-btn class="fill" type="submit">Add</v-btn>
    </form>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <table v-if="items?.length" class="book">
      <thead>
        <tr>
          <TickAll v-model="ticked" :ids="items.map((one) => one.id)" />
          <th>Name</th>
          <th class="wide">Job title</th>
          <th>Company</th>
          <th class="wide">Email</th>
          <th class="wide">Phone</th>
          <th class="wide">Standing</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in items" :key="one.id">
          <td class="tickbox">
            <input v-model="ticked" type="checkbox" :value="one.id" :aria-label="`Tick ${one.fullName}`" />
          </td>
          <td>
            <RouterLink :to="`/people/${one.id}`"
              ><b>{{ one.fullName }}</b></RouterLink
            >
            <span v-if="one.inactive" class="soft">inactive</span>
          </td>
          <td class="wide">{{ one.jobTitle }}</td>
          <td>
            <RouterLink v-if="one.company" :to="`/companies/${one.company.id}`" class="quiet-link">{{
              one.company.name
            }}</RouterLink>
          </td>
          <td class="wide">{{ one.email }}</td>
          <td class="wide">
            <PhoneButton v-if="one.phone" :number="one.phone" :person-id="one.id" />
          </td>
          <td class="wide soft">{{ one.standing }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="items" class="empty">
      {{ q ? `Nobody by “${q}”.` : 'Nobody yet. File a message from Arrivals, or add a person here.' }}
    </p>
    <template v-else><span v-for="n in 8" :key="n" class="ghost"></span></template>
    <button v-if="hasMore" class="word" @click="more">More</button>
    <SelectionBar :people="ticked" @clear="ticked = []" @done="reload" />
  </div>
</template>

<style scoped>
.narrow {
  width: 220px;
}
.tag {
  width: 150px;
}
.add {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
  gap: 12px;
  align-items: end;
  padding-bottom: 14px;
}
</style>

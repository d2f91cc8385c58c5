<script setup lang="ts">
import { computed } from 'vue';
import { useRouter } from 'vue-router';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { plainNumber } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

const router = useRouter();
const session = useSession();
const undo = useUndo();
const { data, error } = useFetched(() => api('GET /api/forms'), ['forms', 'form_submissions']);
const mayDesign = computed(() => session.may('settings.channels'));

async function design(kind: 'public' | 'desk'): Promise<void> {
  try {
    const { form } = await api('POST /api/forms', {
      body: {
        name: kind === 'public' ? 'New form' : 'New desk form',
        slug: `form-${Date.now().toString(36)}`,
        kind,
        fields: [
          { name: 'name', label: 'Name', field: 'fullName', kind: 'line', required: true },
          { name: 'email', label: 'Email', field: 'email', kind: 'line', required: kind === 'public' },
        ],
      },
    });
    await router.push(`/forms/${form.id}`);
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <div class="page">
    <PageHead
      title="Forms"
      help="A public form stands on your website and brings what people write into Arrivals. A desk form asks only what matters on one occasion."
    >
      <v-menu v-if="mayDesign">
        <template #activator="{ props: activator }">
          <v-btn class="fill" v-bind="activator">New form</v-btn>
        </template>
        <v-list>
          <v-list-item title="Public form" subtitle="For your website" @click="design('public')" />
          <v-list-item title="Desk form" subtitle="For colleagues" @click="design('desk')" />
        </v-list>
      </v-menu>
    </PageHead>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <v-table v-if="data?.items.length" class="book">
      <thead>
        <tr>
          <th>Form</th>
          <th>For</th>
          <th class="wide">Owner</th>
          <th class="num">Filled in</th>
          <th><span class="visually-hidden">What to do</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.items" :key="one.id">
          <td>
            <RouterLink :to="`/forms/${one.id}`"
              ><b>{{ one.name }}</b></RouterLink
            >
            <span v-if="!one.active" class="soft"> retired</span>
          </td>
          <td>
            <a v-if="one.kind === 'public'" :href="`/f/${one.slug}`" class="quiet-link" target="_blank"
              >Public, at /f/{{ one.slug }}</a
            >
            <span v-else>Colleagues</span>
          </td>
          <td class="wide soft">{{ one.owner?.name }}</td>
          <td class="num">{{ plainNumber(one.submissions) }}</td>
          <td class="act">
            <RouterLink v-if="one.kind === 'desk'" :to="`/forms/${one.id}/desk`" class="quiet-link"
              >Fill in</RouterLink
            >
          </td>
        </tr>
      </tbody>
    </v-table>
    <p v-else-if="data" class="empty">No forms yet.</p>
    <template v-else><span v-for="n in 4" :key="n" class="ghost"></span></template>
  </div>
</template>

<style scoped>
.act {
  width: 120px;
  text-align: right;
}
</style>

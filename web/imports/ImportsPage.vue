<script setup lang="ts">
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { api, wordsOf } from '../shell/api';
import { day } from '../shell/format';
import { useFetched } from '../shell/live';
import { STATE_WORDS } from './words';

const router = useRouter();
const { data } = useFetched(() => api('GET /api/imports'), ['imports']);
const pasted = ref('');
const error = ref('');
const isBusy = ref(false);

async function put(body: Blob | string, type: string, name: string): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const { id } = await api('POST /api/imports', { raw: { data: body, type }, query: { name } });
    await router.push(`/imports/${id}`);
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}

function take(files: FileList | null | undefined): void {
  const [file] = [...(files ?? [])];
  if (!file) return;
  const type = /\.xlsx$/i.test(file.name)
    ? 'application/octet-stream'
    : /\.vcf$/i.test(file.name)
      ? 'text/vcard'
      : 'text/csv';
  void put(file, type, file.name);
}
</script>

<template>
  <div class="page">
    <div class="page-head"><h1>Import bench</h1></div>
    <div class="bench">
      <label class="drop" @dragover.prevent @drop.prevent="take($event.dataTransfer?.files)">
        <input
          type="file"
          accept=".csv,.tsv,.xlsx,.vcf"
          class="visually-hidden"
          @change="take(($event.target as HTMLInputElement).files)"
        />
        <span>Drop a table or a file of cards here, or <u>choose it</u></span>
        <span class="cap"
          >.csv .tsv .xlsx .vcf · nothing is written before you have seen what it would do</span
        >
      </label>
      <label class="field"
        ><span class="cap">or paste rows</span><textarea v-model="pasted" rows="4"></textarea>
      </label>
      <v-btn
        class="quiet"
        :disabled="!pasted.trim()"
        :loading="isBusy"
        @click="put(pasted, 'text/plain', 'pasted rows')"
        >Put them on the bench</v-btn
      >
    </div>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <table v-if="data?.items.length" class="book">
      <thead>
        <tr>
          <th>File</th>
          <th class="num">Rows</th>
          <th>How it stands</th>
          <th class="wide">By</th>
          <th class="wide">When</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.items" :key="one.id">
          <td>
            <RouterLink :to="`/imports/${one.id}`"
              ><b>{{ one.name }}</b></RouterLink
            >
          </td>
          <td class="num">{{ one.total.toLocaleString() }}</td>
          <td>{{ STATE_WORDS[one.state] }}</td>
          <td class="wide">{{ one.by.name }}</td>
          <td class="wide soft">{{ day(one.createdAt) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="data" class="empty">Nothing was imported yet.</p>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 20px;
  align-items: end;
  padding-bottom: 18px;
}
.drop {
  display: grid;
  place-items: center;
  align-content: center;
  min-height: 110px;
  border: 1px dashed var(--soft);
  border-radius: 3px;
  cursor: pointer;
  text-align: center;
  padding: 8px;
}
.drop:focus-within {
  border-color: var(--ours);
}
@media (max-width: 800px) {
  .bench {
    grid-template-columns: 1fr;
  }
}
</style>

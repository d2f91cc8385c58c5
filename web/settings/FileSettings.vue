<script setup lang="ts">
import { computed } from 'vue';
import EditCell from '../kit/EditCell.vue';
import NumberField from '../kit/NumberField.vue';
import PageHead from '../kit/PageHead.vue';
import Progress from '../kit/Progress.vue';
import { api } from '../shell/api';
import { fileSize, shownCount } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useTaskAction } from '../tasks/useTaskAction';

/** How large and of what kind files may be, and how much of the allowance is used. */
const session = useSession();
const run = useTaskAction();
const {
  data: limits,
  error,
  load,
} = useFetched(() => api('GET /api/file-limits'), ['file_limits', 'files', 'file_versions']);
const MEGABYTE = 1024 ** 2;
const scanning = computed(() => {
  if (!limits.value) return '';
  if (!limits.value.scans) return 'Files are not scanned: no ClamAV daemon is set up (CLAMD).';
  const { waiting } = limits.value;
  return waiting
    ? `Files are scanned before anybody opens them; ${shownCount(waiting)} still to be scanned.`
    : 'Files are scanned before anybody opens them.';
});

const saveRefused = (text: string, version: number): Promise<{ eventId: string | null }> =>
  api('PATCH /api/file-limits', {
    body: { version, refused: text.split(/[\s,]+/).filter(Boolean) },
  });
async function change(patch: {
  mostBytes?: number;
  mostFileBytes?: number;
  refused?: string[];
}): Promise<void> {
  const version = limits.value?.version ?? 1;
  await run('Changed the limits of files.', () =>
    api('PATCH /api/file-limits', { body: { version, ...patch } }),
  );
  await load();
}
</script>

<template>
  <PageHead
    title="Files"
    help="Files on records and tasks. The same file is kept once, however many records it is on; earlier versions are kept too."
  />
  <p v-if="error" class="wrong" role="alert">{{ error }}</p>
  <div v-if="limits" class="limits">
    <p>
      <Progress :value="limits.usedBytes" :max="limits.mostBytes" label="Space used by files">
        <span class="used">{{ fileSize(limits.usedBytes) }} of {{ fileSize(limits.mostBytes) }} used</span>
      </Progress>
    </p>
    <div class="fields">
      <NumberField
        :model-value="Math.round(limits.mostBytes / MEGABYTE)"
        :min="1"
        :max="1024 ** 3"
        :disabled="!session.may('settings.organisation')"
        label="Space for all files, MB"
        @change="change({ mostBytes: $event * MEGABYTE })"
      />
      <NumberField
        :model-value="Math.max(1, Math.round(limits.mostFileBytes / MEGABYTE))"
        :min="1"
        :max="64"
        :disabled="!session.may('settings.organisation')"
        label="Largest file, MB"
        @change="change({ mostFileBytes: $event * MEGABYTE })"
      />
    </div>
    <p class="cap">Kinds of files that are not taken, by the ending of their names</p>
    <EditCell
      :value="limits.refused.join(', ')"
      label="Endings that are not taken"
      kind="long"
      :version="limits.version"
      :save="session.may('settings.organisation') ? saveRefused : undefined"
    />
    <p class="soft">A file that is a program is refused whatever its name says.</p>
    <p class="soft">{{ scanning }}</p>
  </div>
  <template v-else-if="!error"><span v-for="n in 4" :key="n" class="ghost"></span></template>
</template>

<style scoped>
.limits {
  max-width: 640px;
}
.used {
  white-space: nowrap;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
  gap: 10px 16px;
  padding-bottom: 10px;
}
</style>

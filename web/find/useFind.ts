import type { About, ComposerReading } from '@emporikon/contract/ledger';
import type { SearchHit } from '@emporikon/contract/settings';
import { computed, ref, shallowRef, watch, type ComputedRef, type Ref, type ShallowRef } from 'vue';
import { api } from '../shell/api';
import { findCommands, type Command } from './commands';
import type { Recent } from './recent';

export type Option =
  | { kind: 'record'; key: string; group: string; hit: Recent & { inactive?: boolean } }
  | { kind: 'command'; key: string; group: string; command: Command }
  | { kind: 'tag'; key: string; group: string; tag: string; people: number }
  | { kind: 'line'; key: string; group: string; reading: ComposerReading };

interface Sources {
  commands: () => readonly Command[];
  recent: () => readonly Recent[];
  /** The record whose page is open: what is written in plain words is about it. */
  about: () => About;
  fail: (problem: unknown) => void;
}

const PAUSE_MS = 70;
const TAG = /^tag:\s*/i;
/** A name is seldom longer: from here on a text may be something to be saved. */
const LEAST_WORDS = 3;
const asRecord = (hit: SearchHit | Recent, group: string): Option => ({
  kind: 'record',
  key: hit.id,
  group,
  hit,
});

/** What the find field offers for what stands in it: records, tags, commands, and what plain words would save. */
export function useFind({ commands, recent, about, fail }: Sources): {
  words: Ref<string>;
  options: ComputedRef<Option[]>;
  isAnswered: Ref<boolean>;
} {
  const words = ref('');
  const hits = shallowRef<SearchHit[]>([]);
  const tags: ShallowRef<{ tag: string; people: number }[]> = shallowRef([]);
  const reading = shallowRef<ComposerReading | null>(null);
  const isAnswered = ref(false);
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function ask(typed: string): Promise<void> {
    const isTag = TAG.test(typed);
    const name = typed.replace(TAG, '').trim();
    const isLong = typed.trim().split(/\s+/).length >= LEAST_WORDS;
    const [found, lists, line] = await Promise.all([
      name ? api('GET /api/search', { query: { q: name } }) : { items: [] },
      // What cannot be offered beside them does not keep the records from being found.
      isTag ? api('GET /api/lists').catch(() => null) : null,
      isLong ? api('POST /api/composer', { body: { line: typed, about: about() } }).catch(() => null) : null,
    ]);
    if (words.value !== typed) return;
    hits.value = found.items;
    const folded = name.toLowerCase();
    tags.value = (lists?.tags ?? []).filter(({ tag }) => tag.toLowerCase().includes(folded)).slice(0, 8);
    reading.value = line && (line.nextMove || Object.keys(about()).length) ? line : null;
    isAnswered.value = true;
  }

  watch(words, (typed) => {
    clearTimeout(timer);
    isAnswered.value = false;
    if (!typed.trim()) {
      [hits.value, tags.value, reading.value] = [[], [], null];
      return;
    }
    timer = setTimeout(() => void ask(typed).catch(fail), PAUSE_MS);
  });

  const options = computed((): Option[] => {
    if (!words.value.trim()) return recent().map((record) => asRecord(record, 'Opened last'));
    return [
      ...tags.value.map(({ tag, people }): Option => ({
        kind: 'tag',
        key: `tag ${tag}`,
        group: 'Tags',
        tag,
        people,
      })),
      ...hits.value.map((hit) => asRecord(hit, 'Records')),
      ...(reading.value
        ? [{ kind: 'line', key: 'line', group: 'Save', reading: reading.value } as Option]
        : []),
      ...findCommands(words.value, commands()).map((command): Option => ({
        kind: 'command',
        key: `${command.hint} ${command.name}`,
        group: 'Places and commands',
        command,
      })),
    ];
  });
  return { words, options, isAnswered };
}

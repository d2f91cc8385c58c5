<script setup lang="ts">
import type { In } from '@emporikon/contract';
import { useSession } from '../shell/session';
import { useNewLetter } from './useNewLetter';

/** Begins a letter about a record, or one that answers a message. */
const props = defineProps<{ letter: In<'POST /api/letters', 'body'>; isMain?: boolean }>();
const session = useSession();
const { isBusy, write } = useNewLetter();
</script>

<template>
  <v-btn
    v-if="session.may('ledger.add')"
    :class="isMain ? 'fill' : 'word'"
    :loading="isBusy"
    @click="write(props.letter)"
    ><slot>Write a letter</slot></v-btn
  >
</template>

<script lang="ts">
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import { formatClock } from '$lib/core/time';
  import type { Recording } from '$lib/client/api';
  import { phrases } from './phrases';

  interface Props {
    recordings: readonly Recording[];
    onRestore: (recording: Recording) => void;
    onRemove: (recording: Recording) => void;
  }
  let { recordings, onRestore, onRemove }: Props = $props();
  let isOpen = $state(false);
</script>

<section class="bin">
  <button class="act quiet" aria-expanded={isOpen} onclick={() => (isOpen = !isOpen)}
    ><Trash2 size={15} /> {phrases.bin.title(recordings.length)}</button
  >
  {#if isOpen}
    <ul class="floating">
      {#each recordings as recording (recording.id)}
        <li>
          <span>{recording.title}</span>
          <span class="mono soft">{formatClock(recording.durationMs)}</span>
          <button class="act" onclick={() => onRestore(recording)}><Undo2 size={15} /> {phrases.bin.back}</button>
          <button class="act quiet warn" onclick={() => onRemove(recording)}>{phrases.bin.remove}</button>
        </li>
      {/each}
    </ul>
  {/if}
</section>

<style>
  .bin {
    position: relative;
  }
  .floating {
    top: auto;
    right: auto;
    bottom: 40px;
    left: 0;
    width: 620px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto auto;
    align-items: center;
    gap: 16px;
    padding: 4px 0;
  }
</style>

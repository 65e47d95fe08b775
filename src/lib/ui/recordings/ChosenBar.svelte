<script lang="ts">
  import Package from '@lucide/svelte/icons/package';
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import { library } from '$lib/client/library.svelte';
  import { phrases } from './phrases';

  /** What can be done with all the recordings that are chosen. */
  interface Props {
    onMove: (projectId: string | null) => void;
    onBin: () => void;
    onBundle: () => void;
    onManage: () => void;
  }
  let { onMove, onBin, onBundle, onManage }: Props = $props();
  const { chosen } = phrases;
  const MANAGE = 'manage';
  const isPartial = $derived(library.total !== null && library.chosen.size < library.total);
</script>

<section aria-label={chosen.label}>
  <strong role="status">{chosen.count(library.chosen.size)}</strong>
  <select
    class="field"
    aria-label={chosen.move}
    value=""
    onchange={(event) => {
      const { value } = event.currentTarget;
      event.currentTarget.value = '';
      if (value === MANAGE) onManage();
      else onMove(value === 'none' ? null : value);
    }}
  >
    <option value="" disabled>{chosen.move}</option>
    {#each library.projects as { id, name } (id)}<option value={id}>{name}</option>{/each}
    <option value="none">{phrases.find.noProject}</option>
    <option value={MANAGE}>{phrases.projects.create}</option>
  </select>
  <button class="act" onclick={onBundle}><Package size={15} /> {chosen.bundle}</button>
  <button class="act" onclick={onBin}><Trash2 size={15} /> {chosen.bin}</button>
  {#if isPartial}
    <button class="act quiet" title="Ctrl+A" onclick={() => void library.chooseAll()}
      >{chosen.all(library.total!)}</button
    >
  {/if}
  <button class="act quiet" onclick={() => library.letGo()}>{chosen.letGo}</button>
</section>

<style>
  section {
    display: flex;
    align-items: center;
    gap: 12px;
  }
</style>

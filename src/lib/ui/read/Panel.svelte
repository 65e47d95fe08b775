<script lang="ts">
  import type { CommandId } from '$lib/client/keys/commands';
  import { preferences } from '$lib/client/preferences.svelte';
  import CueCard from '../cue-card/CueCard.svelte';
  import Sounds from '../frame/Sounds.svelte';
  import Changes from './Changes.svelte';
  import Doubts from './Doubts.svelte';
  import Find from './Find.svelte';
  import Outline from './Outline.svelte';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();

  const TABS = [
    { id: 'doubts', label: 'Doubts' },
    { id: 'find', label: 'Find' },
    { id: 'cue', label: 'Cue' },
    { id: 'outline', label: 'Outline' },
    { id: 'changes', label: 'Changes' }
  ] as const;
  const open = $derived(preferences.readPanel);

  /** Arrows go from tab to tab, as the pattern for tabs has it (WAI-ARIA Authoring Practices). */
  function onKey(event: KeyboardEvent): void {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const at = TABS.findIndex((tab) => tab.id === open);
    const next = TABS[(at + by + TABS.length) % TABS.length]!;
    preferences.set({ readPanel: next.id });
    document.getElementById(`tab-${next.id}`)?.focus();
  }
</script>

<Sounds />
<div role="tablist" aria-label="Beside the page" tabindex="-1" onkeydowncapture={onKey}>
  {#each TABS as { id, label } (id)}
    <button
      role="tab"
      id="tab-{id}"
      aria-selected={open === id}
      aria-controls="read-panel"
      tabindex={open === id ? 0 : -1}
      onclick={() => preferences.set({ readPanel: id })}>{label}</button
    >
  {/each}
</div>
<div class="panel" id="read-panel" role="tabpanel" aria-labelledby="tab-{open}">
  {#if open === 'doubts'}
    <Doubts />
  {:else if open === 'find'}
    <Find />
  {:else if open === 'cue'}
    <CueCard {onCommand} />
  {:else if open === 'outline'}
    <Outline />
  {:else}
    <Changes />
  {/if}
</div>

<style>
  [role='tablist'] {
    display: flex;
    gap: 2px;
    border-bottom: 1px solid var(--rule);
  }
  [role='tab'] {
    padding: 6px 9px;
    border-bottom: 3px solid transparent;
    color: var(--soft-ink);
    font-size: 15px;
  }
  [role='tab']:hover {
    color: var(--ink);
  }
  [role='tab'][aria-selected='true'] {
    border-bottom-color: var(--leaf);
    color: var(--ink);
    font-weight: 700;
  }
  .panel {
    display: grid;
    gap: 16px;
    align-content: start;
  }
</style>

<script lang="ts" generics="Id extends string">
  import type { Snippet } from 'svelte';

  /** Tabs over one panel; arrows go from tab to tab (WAI-ARIA Authoring Practices). */
  interface Props {
    label: string;
    tabs: readonly { readonly id: Id; readonly label: string }[];
    open: Id;
    onOpen: (id: Id) => void;
    children: Snippet;
  }
  let { label, tabs, open, onOpen, children }: Props = $props();

  function onKey(event: KeyboardEvent): void {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const at = tabs.findIndex((tab) => tab.id === open);
    const next = tabs[(at + by + tabs.length) % tabs.length]!;
    onOpen(next.id);
    document.getElementById(`tab-${next.id}`)?.focus();
  }
</script>

<div role="tablist" aria-label={label} tabindex="-1" onkeydowncapture={onKey}>
  {#each tabs as { id, label: name } (id)}
    <button
      role="tab"
      id="tab-{id}"
      aria-selected={open === id}
      aria-controls="beside-panel"
      tabindex={open === id ? 0 : -1}
      onclick={() => onOpen(id)}>{name}</button
    >
  {/each}
</div>
<div class="panel" id="beside-panel" role="tabpanel" aria-labelledby="tab-{open}">
  {@render children()}
</div>

<style>
  [role='tablist'] {
    display: flex;
    gap: clamp(0px, 0.15vw, 2px);
    border-bottom: 1px solid var(--rule);
  }
  [role='tab'] {
    padding: 6px clamp(6px, 0.7vw, 9px);
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

<script lang="ts">
  import Undo from '@lucide/svelte/icons/undo-2';
  import type { Snippet } from 'svelte';
  import { phrases } from './phrases';

  /** What a value is called; where it is the scope's own it is marked, and can be let go. */
  interface Props {
    label: string;
    isOwn: boolean;
    onLetGo: () => void;
    /** Beside the name. */
    children?: Snippet;
  }
  let { label, isOwn, onLetGo, children }: Props = $props();
</script>

<span class="name" class:own={isOwn}>
  {label}
  {#if isOwn}
    <button class="icon" aria-label={phrases.asOthers(label)} title={phrases.asOthers(label)} onclick={onLetGo}
      ><Undo size={14} /></button
    >
  {/if}
  {@render children?.()}
</span>

<style>
  .name {
    display: flex;
    align-items: center;
    gap: 4px;
    min-height: 24px;
    font-size: 14px;
  }
  .own {
    color: var(--leaf);
    font-weight: 600;
  }
  .icon {
    width: 24px;
    height: 24px;
  }
</style>

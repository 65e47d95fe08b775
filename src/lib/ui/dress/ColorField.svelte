<script lang="ts">
  import Undo from '@lucide/svelte/icons/undo-2';
  import { colorSchema } from '$lib/core/track';
  import { preferences } from '$lib/client/preferences.svelte';
  import { phrases } from './phrases';

  interface Props {
    label: string;
    value: string;
    isOwn: boolean;
    /** What its contrast is with what it lies on, where that is known. */
    against?: string;
    onTry: (color: string) => void;
    onSet: (color: string) => void;
    onLetGo: () => void;
  }
  let { label, value, isOwn, against = '', onTry, onSet, onLetGo }: Props = $props();

  function type(event: Event & { currentTarget: HTMLInputElement }): void {
    const { value: typed } = event.currentTarget;
    const read = colorSchema.safeParse(typed.startsWith('#') ? typed.trim() : `#${typed.trim()}`);
    if (read.success && read.data !== value) onSet(read.data);
    event.currentTarget.value = value;
  }
</script>

<div class="color" class:own={isOwn}>
  <span class="name">
    {label}
    {#if isOwn}
      <button class="icon" aria-label={phrases.asOthers(label)} title={phrases.asOthers(label)} onclick={onLetGo}
        ><Undo size={14} /></button
      >
    {/if}
    {#if against !== ''}<span class="soft">{against}</span>{/if}
  </span>
  <span class="choice">
    <input
      type="color"
      aria-label={phrases.colors.pick(label)}
      {value}
      oninput={({ currentTarget }) => onTry(currentTarget.value)}
      onchange={({ currentTarget }) => onSet(currentTarget.value)}
    />
    <input
      class="field mono"
      aria-label={phrases.colors.hex(label)}
      {value}
      maxlength="9"
      spellcheck="false"
      autocomplete="off"
      onchange={type}
    />
    {#each preferences.recentColors.slice(0, 5) as recent (recent)}
      <button
        class="recent"
        style:background={recent}
        aria-label="{label}: {phrases.colors.take(recent)}"
        title={phrases.colors.take(recent)}
        onclick={() => onSet(recent)}
      ></button>
    {/each}
  </span>
</div>

<style>
  .color {
    display: grid;
    gap: 2px;
    font-size: 14px;
  }
  .name {
    display: flex;
    align-items: center;
    gap: 4px;
    min-height: 24px;
  }
  .own .name {
    color: var(--leaf);
    font-weight: 600;
  }
  .name .soft {
    margin-left: auto;
    font-weight: 400;
    font-size: 13px;
  }
  .icon {
    width: 24px;
    height: 24px;
  }
  .choice {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  input[type='color'] {
    width: 40px;
    height: 30px;
    padding: 2px;
    border: 1px solid var(--rule);
    border-radius: 3px 9px;
    background: var(--sheet);
    cursor: pointer;
  }
  .field {
    width: 96px;
    min-height: 30px;
    padding: 1px 8px;
  }
  .recent {
    width: 24px;
    height: 24px;
    border: 1px solid color-mix(in oklab, var(--ink), transparent 60%);
    border-radius: 2px 8px;
    cursor: pointer;
  }
</style>

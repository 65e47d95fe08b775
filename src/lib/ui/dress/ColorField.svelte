<script lang="ts">
  import FieldName from './FieldName.svelte';
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

<div class="color">
  <FieldName {label} {isOwn} {onLetGo}>
    {#if against !== ''}<span class="against soft">{against}</span>{/if}
  </FieldName>
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
  .against {
    margin-left: auto;
    font-weight: 400;
    font-size: 13px;
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
